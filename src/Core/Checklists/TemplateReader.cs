using System.Globalization;
using YamlDotNet.Core;
using YamlDotNet.RepresentationModel;
using YardRelay.Core.Swaps;

namespace YardRelay.Core.Checklists;

/// <summary>
/// Reads a checklist template from YAML 1.2 in the form of <c>docs/formats.md</c>. Everything wrong is reported at once, with its line.
/// </summary>
public static class TemplateReader
{
    /// <summary>Steps of a template at most.</summary>
    public const int MostSteps = 300;

    /// <summary>Characters of a template at most.</summary>
    public const int MostCharacters = 256 * 1024;

    /// <summary>The facts that a step can be done by, as a template names them.</summary>
    public static IReadOnlyCollection<string> FactWords => Reading.Facts.Keys;

    private const int MostNodes = 20_000;
    private const int MostFaults = 50;

    /// <summary>The template, or all of its faults.</summary>
    public static Result<ChecklistTemplate> Read(string yaml)
    {
        if (yaml.Length > MostCharacters)
            return new ChecklistTooLong(MostCharacters, yaml.Length);
        var stream = new YamlStream();
        try
        {
            if (YamlBounds.Passed(yaml, MostNodes) is { } passed) return new ChecklistTooMuch(passed.Bound, passed.Line, passed.What);
            stream.Load(new StringReader(yaml));
        }
        catch (YamlException wrong)
        {
            return new ChecklistNoYaml(wrong.Start.Line, wrong.Message);
        }
        if (stream.Documents.Count != 1 || stream.Documents[0].RootNode is not YamlMappingNode root)
            return new ChecklistNoDocument();
        return new Reading().Read(root);
    }

    private sealed class Reading
    {
        private readonly List<Problem> _faults = [];
        private readonly List<(StepTemplate Step, YamlNode At)> _steps = [];

        public Result<ChecklistTemplate> Read(YamlMappingNode root)
        {
            Only(root, "name", "kinds", "steps");
            var title = Text(root, "name");
            if (title.Length is 0 or > 100) Say(root, "the checklist needs a 'name' of at most 100 characters.");
            var kinds = Kinds(root, "kinds");
            var list = root.Children.TryGetValue("steps", out var stepsNode) ? stepsNode as YamlSequenceNode : null;
            if (list is null || list.Children.Count == 0) Say(root, "the checklist has no 'steps'.");
            else if (list.Children.Count > MostSteps) Say(list, $"the checklist has {list.Children.Count} steps; at most {MostSteps}.");
            foreach (var node in list?.Children.Take(MostSteps) ?? [])
            {
                if (node is YamlMappingNode step) Step(step);
                else Say(node, "a step is a mapping with key, phase, title and kind.");
            }
            var steps = _steps.OrderBy(s => s.Step.Phase).ToList();
            for (var i = 0; i < steps.Count; i++)
                foreach (var asked in steps[i].Step.When?.Answers.Keys ?? [])
                    if (steps.FindIndex(s => s.Step.Key == asked) is var at && (at < 0 || at >= i))
                        Say(
                            steps[i].At,
                            at < 0
                                ? $"step '{steps[i].Step.Key}' asks for the answer of '{asked}', which is no step of this checklist."
                                : $"step '{steps[i].Step.Key}' asks for the answer of '{asked}', which does not come before it. "
                                    + $"Conditions look back only.");
            return _faults.Count > 0
                ? Result<ChecklistTemplate>.Failed(_faults)
                : new ChecklistTemplate(title, kinds, [.. steps.Select(s => s.Step)]);
        }

        private void Step(YamlMappingNode step)
        {
            Only(
                step, "key", "phase", "title", "kind", "expects", "fact", "programs", "unit", "least", "most", "options", "propose",
                "until", "marks", "help", "when", "on", "who");
            var key = Text(step, "key");
            if (key.Length is 0 or > 60 || !key.All(c => char.IsAsciiLetterLower(c) || char.IsAsciiDigit(c) || c == '-'))
                Say(step, $"the key '{key}' must have 1 to 60 lower-case letters, digits and '-'.");
            if (_steps.Exists(s => s.Step.Key == key)) Say(step, $"the key '{key}' stands twice.");
            if (Text(step, "title").Length is 0 or > 200) Say(step, $"step '{key}' needs a title of at most 200 characters.");
            if (Text(step, "help").Length > 4000) Say(step, $"the help of step '{key}' is longer than 4,000 characters.");
            Phase? phase = Text(step, "phase") switch
            {
                "before" => Phase.Before,
                "swap" => Phase.Swap,
                "after" => Phase.After,
                "hand-in" => Phase.HandIn,
                _ => null
            };
            if (phase is null) Say(step, $"step '{key}' has the phase '{Text(step, "phase")}'. Use before, swap, after or hand-in.");
            var work = Work(step, key);
            var marks = Marks(step, key);
            var on = Text(step, "on");
            if (on is not ("" or "new" or "old"))
                Say(step, $"step '{key}' is on '{on}'. Use on: new or on: old, for the computer that it is done to.");
            var who = Text(step, "who");
            if (who is not ("" or "person" or "technician"))
                Say(
                    step,
                    $"step '{key}' is done by '{who}'. Use who: person for what the person does and says on their own page, or leave it "
                        + $"out.");
            if (who == "person" && work is not (null or StepWork.Confirmation or StepWork.Tick))
                Say(step, $"step '{key}': a person only confirms or ticks; use kind confirmation or tick.");
            var when = step.Children.TryGetValue("when", out var condition) ? Condition(condition, key) : null;
            if (phase is { } p && work is not null)
                _steps.Add((
                    new(
                        key, Text(step, "title"), p, work, marks, Text(step, "help"), when,
                        on == "new" || work is StepWork.Scan { New: true }, who == "person"),
                    step));
        }

        private StepWork? Work(YamlMappingNode step, string key)
        {
            var kind = Text(step, "kind");
            string[] own = kind switch
            {
                "scan" => ["expects"],
                "automatic" => Text(step, "fact") switch
                {
                    "programs-found" => ["fact", "programs"],
                    "free-disk" => ["fact", "least"],
                    _ => ["fact"]
                },
                "number" => ["unit", "least", "most"],
                "choice" => ["options", "propose"],
                "again" => ["until"],
                _ => []
            };
            foreach (var word in new[] { "expects", "fact", "programs", "unit", "least", "most", "options", "propose", "until" })
                if (step.Children.ContainsKey(word) && !own.Contains(word)) Say(step, $"step '{key}' of kind '{kind}' has no '{word}'.");
            switch (kind)
            {
                case "tick": return new StepWork.Tick();
                case "confirmation": return new StepWork.Confirmation();
                case "text": return new StepWork.Text();
                case "photo": return new StepWork.Photo();
                case "timed": return new StepWork.Timed(false);
                case "restart": return new StepWork.Timed(true);
                case "scan" when Text(step, "expects") is "old" or "new": return new StepWork.Scan(Text(step, "expects") == "new");
                case "number":
                    var (least, most) = (Bound(step, key, "least"), Bound(step, key, "most"));
                    if (least > most) Say(step, $"step '{key}': 'least' is more than 'most'.");
                    return new StepWork.Number(Text(step, "unit"), least, most);
                case "choice":
                    var options = Texts(step, "options");
                    if (options.Count is < 2 or > 20 || options.Distinct(StringComparer.OrdinalIgnoreCase).Count() != options.Count)
                        Say(step, $"step '{key}' needs 2 to 20 different 'options'.");
                    if (Text(step, "propose") is not ("" or "by-growth"))
                        Say(
                            step,
                            $"step '{key}' has propose: {Text(step, "propose")}. Use by-growth, with the most frequent answer first, or "
                                + $"leave it out.");
                    return new StepWork.Choice(options, Text(step, "propose") == "by-growth");
                case "again":
                    if (Text(step, "until").Length is 0 or > 200)
                        Say(step, $"step '{key}' needs 'until': the result that ends it, in at most 200 characters.");
                    return new StepWork.Again(Text(step, "until"));
                case "automatic" when Facts.TryGetValue(Text(step, "fact"), out var fact):
                    var room = fact == AutomaticFact.FreeDisk ? Bound(step, key, "least") : 0;
                    if (room is null or < 0 or > 1_000_000 || room != Math.Floor(room.Value))
                        Say(step, $"step '{key}' needs 'least': the gigabytes that must be free, such as 20.");
                    return new StepWork.Automatic(fact, (int)Math.Clamp(room ?? 0, 0, 1_000_000)) { Programs = Texts(step, "programs") };
                default:
                    Say(
                        step,
                        $"step '{key}': use kind tick, confirmation, text, photo, timed or restart; scan with expects old or new; number "
                            + $"with unit, least, most; choice with options; again with until; or automatic with fact "
                            + $"{string.Join(", ", Facts.Keys)}.");
                    return null;
            }
        }

        internal static readonly Dictionary<string, AutomaticFact> Facts = new(StringComparer.Ordinal)
        {
            ["surveyed"] = AutomaticFact.Surveyed,
            ["closing-trip-done"] = AutomaticFact.ClosingTripDone,
            ["staged-and-verified"] = AutomaticFact.StagedAndVerified,
            ["restored-and-verified"] = AutomaticFact.RestoredAndVerified,
            ["account-closed"] = AutomaticFact.AccountClosed,
            ["signed-out"] = AutomaticFact.SignedOut,
            ["programs-found"] = AutomaticFact.ProgramsFound,
            ["free-disk"] = AutomaticFact.FreeDisk,
            ["passphrase-set"] = AutomaticFact.PassphraseSet,
        };

        private decimal? Bound(YamlMappingNode step, string key, string word)
        {
            if (!step.Children.ContainsKey(word)) return null;
            if (decimal.TryParse(
                Text(step, word),
                NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint,
                CultureInfo.InvariantCulture,
                out var bound))
                return bound;
            Say(step, $"step '{key}': '{word}' is '{Text(step, word)}' and must be a number.");
            return null;
        }

        private Station? Marks(YamlMappingNode step, string key)
        {
            if (!step.Children.ContainsKey("marks")) return null;
            Station? marks = Text(step, "marks") switch
            {
                "told" => Station.Told,
                "swapped" => Station.Swapped,
                "accepted" => Station.Accepted,
                "handed-in" => Station.HandedIn,
                _ => null
            };
            if (marks is null) Say(step, $"step '{key}' marks '{Text(step, "marks")}'. Use told, swapped, accepted or handed-in.");
            else if (_steps.Exists(s => s.Step.Marks == marks)) Say(step, $"step '{key}' marks a station that another step marks already.");
            return marks;
        }

        private StepCondition? Condition(YamlNode node, string key)
        {
            if (node is not YamlMappingNode when)
            {
                Say(
                    node,
                    $"step '{key}': 'when' is a mapping of kind, site, room, department, role, old-model, new-model, old-platform, "
                        + $"new-platform, program or answers.");
                return null;
            }
            Only(
                when, "kind", "site", "room", "department", "role", "old-model", "new-model", "old-platform", "new-platform", "program",
                "answers");
            var answers = new Dictionary<string, IReadOnlyList<string>>(StringComparer.Ordinal);
            if (when.Children.TryGetValue("answers", out var asked))
            {
                if (asked is not YamlMappingNode map) Say(asked, $"step '{key}': 'answers' maps keys of earlier steps to answers.");
                else foreach (var (name, _) in map.Children)
                    if (name is YamlScalarNode { Value: { } other }) answers[other] = Texts(map, other);
            }
            return new(Kinds(when, "kind"), Texts(when, "site"), Texts(when, "room"), Texts(when, "department"), Texts(when, "old-model"),
                Texts(when, "new-model"), Texts(when, "program"), answers,
                Texts(when, "role"), Platforms(when, "old-platform"), Platforms(when, "new-platform"));
        }

        private List<SwapKind> Kinds(YamlMappingNode node, string word)
        {
            var kinds = new List<SwapKind>();
            foreach (var text in Texts(node, word))
            {
                if (Enum.GetNames<SwapKind>().Any(n => string.Equals(n, text, StringComparison.OrdinalIgnoreCase)))
                    kinds.Add(Enum.Parse<SwapKind>(text, true));
                else Say(node.Children[word], $"'{text}' is not a kind of swap. Use renew, second, reimage, rescue, leave or issue.");
            }
            return kinds;
        }

        private List<string> Platforms(YamlMappingNode node, string word)
        {
            var texts = Texts(node, word);
            foreach (var text in texts.Where(t =>
                !Enum.GetNames<Carrying.Inventories.HomePlatform>().Contains(t, StringComparer.OrdinalIgnoreCase)))
                Say(node.Children[word], $"'{text}' is no system. Use linux, windows or mac.");
            return texts;
        }

        /// <summary>One text, or a list of them.</summary>
        private List<string> Texts(YamlMappingNode node, string word)
        {
            var texts = new List<string>();
            if (!node.Children.TryGetValue(word, out var value)) return texts;
            foreach (var item in value is YamlSequenceNode list ? list.Children : [value])
            {
                if (item is YamlScalarNode { Value: { } text } && text.Trim().Length is > 0 and <= 200) texts.Add(text.Trim());
                else Say(item, $"'{word}' takes texts of 1 to 200 characters.");
            }
            if (texts.Count > 50) Say(value, $"'{word}' takes at most 50 texts.");
            return texts;
        }

        private static string Text(YamlMappingNode node, string key) =>
            node.Children.TryGetValue(key, out var value) && value is YamlScalarNode { Value: { } text } ? text.Trim() : "";

        private void Only(YamlMappingNode node, params string[] known)
        {
            foreach (var (key, _) in node.Children)
                if (key is not YamlScalarNode { Value: { } name } || !known.Contains(name))
                    Say(key, $"'{key}' is not known here. Use {string.Join(", ", known)}.");
        }

        private void Say(YamlNode at, string message)
        {
            if (_faults.Count < MostFaults) _faults.Add(new ChecklistFormProblem(at.Start.Line, message));
        }
    }
}
