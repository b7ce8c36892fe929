using YamlDotNet.Core;
using YamlDotNet.RepresentationModel;
using YardRelay.Core.Swaps;

namespace YardRelay.Core.Checklists;

/// <summary>Reads a checklist template from YAML 1.2 in the form of <c>docs/formats.md</c>. Everything wrong is reported at once, with its line.</summary>
public static class TemplateReader
{
    private const int MostSteps = 300;

    /// <summary>The template, or all of its faults.</summary>
    public static Result<ChecklistTemplate> Read(string yaml)
    {
        var stream = new YamlStream();
        try
        {
            stream.Load(new StringReader(yaml));
        }
        catch (YamlException wrong)
        {
            return new Problem("checklist.yaml", $"Checklist line {wrong.Start.Line}: this is not YAML: {wrong.Message}");
        }
        if (stream.Documents.Count != 1 || stream.Documents[0].RootNode is not YamlMappingNode root) return new Problem("checklist.yaml", "A checklist is one YAML document with 'name' and 'steps'. See docs/formats.md.");

        var faults = new List<Problem>();
        void Say(YamlNode at, string message) => faults.Add(new("checklist.form", $"Checklist line {at.Start.Line}: {message}"));
        string Text(YamlMappingNode node, string key, string fallback = "") => node.Children.TryGetValue(key, out var value) && value is YamlScalarNode { Value: { } text } ? text.Trim() : fallback;
        void Only(YamlMappingNode node, params string[] known)
        {
            foreach (var (key, _) in node.Children)
                if (key is not YamlScalarNode { Value: { } name } || !known.Contains(name)) Say(key, $"'{key}' is not known here. Use {string.Join(", ", known)}.");
        }

        Only(root, "name", "kinds", "steps");
        var title = Text(root, "name");
        if (title.Length == 0) Say(root, "the checklist has no 'name'.");
        var kinds = new List<SwapKind>();
        if (root.Children.TryGetValue("kinds", out var kindsNode))
            foreach (var item in kindsNode as YamlSequenceNode ?? [])
            {
                if (item is YamlScalarNode { Value: { } k } && Enum.TryParse<SwapKind>(k, true, out var kind)) kinds.Add(kind);
                else Say(item, $"'{item}' is not a kind of swap. Use renew, second, reimage, rescue, leave or issue.");
            }

        var steps = new List<StepTemplate>();
        var list = root.Children.TryGetValue("steps", out var stepsNode) ? stepsNode as YamlSequenceNode : null;
        if (list is null || list.Children.Count == 0) Say(root, "the checklist has no 'steps'.");
        else if (list.Children.Count > MostSteps) Say(list, $"the checklist has {list.Children.Count} steps; at most {MostSteps}.");
        foreach (var node in list?.Children ?? [])
        {
            if (node is not YamlMappingNode step)
            {
                Say(node, "a step is a mapping with key, phase, title and kind.");
                continue;
            }
            Only(step, "key", "phase", "title", "kind", "expects", "fact", "marks", "help");
            var key = Text(step, "key");
            if (key.Length is 0 or > 60 || !key.All(c => char.IsAsciiLetterLower(c) || char.IsAsciiDigit(c) || c == '-')) Say(step, $"the key '{key}' must have 1 to 60 lower-case letters, digits and '-'.");
            if (steps.Any(s => s.Key == key)) Say(step, $"the key '{key}' stands twice.");
            if (Text(step, "title").Length is 0 or > 200) Say(step, $"step '{key}' needs a title of at most 200 characters.");
            Phase? phase = Text(step, "phase") switch { "before" => Phase.Before, "swap" => Phase.Swap, "after" => Phase.After, "hand-in" => Phase.HandIn, _ => null };
            if (phase is null) Say(step, $"step '{key}' has the phase '{Text(step, "phase")}'. Use before, swap, after or hand-in.");
            StepWork? work = (Text(step, "kind"), Text(step, "expects"), Text(step, "fact")) switch
            {
                ("tick", "", "") => new StepWork.Tick(),
                ("scan", "old", "") => new StepWork.Scan(false),
                ("scan", "new", "") => new StepWork.Scan(true),
                ("automatic", "", "staged-and-verified") => new StepWork.Automatic(AutomaticFact.StagedAndVerified),
                ("automatic", "", "restored-and-verified") => new StepWork.Automatic(AutomaticFact.RestoredAndVerified),
                _ => null,
            };
            if (work is null) Say(step, $"step '{key}': use kind tick; or kind scan with expects old or new; or kind automatic with fact staged-and-verified or restored-and-verified.");
            Station? marks = null;
            if (step.Children.ContainsKey("marks"))
            {
                marks = Text(step, "marks") switch { "told" => Station.Told, "swapped" => Station.Swapped, "accepted" => Station.Accepted, "handed-in" => Station.HandedIn, _ => null };
                if (marks is null) Say(step, $"step '{key}' marks '{Text(step, "marks")}'. Use told, swapped, accepted or handed-in.");
                else if (steps.Any(s => s.Marks == marks)) Say(step, $"step '{key}' marks a station that another step marks already.");
            }
            if (phase is { } p && work is not null) steps.Add(new(key, Text(step, "title"), p, work, marks, Text(step, "help")));
        }
        return faults.Count > 0 ? Result<ChecklistTemplate>.Failed(faults) : new ChecklistTemplate(title, kinds, [.. steps.OrderBy(s => s.Phase)]);
    }
}
