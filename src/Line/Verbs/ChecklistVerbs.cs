using System.CommandLine;
using YardRelay.Client;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Swaps;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary><c>yardline checklist</c>, <c>step</c> and <c>swap checklist</c>.</summary>
internal static class ChecklistVerbs
{
    public static IEnumerable<Command> Create()
    {
        var file = new Argument<string>("file") { Description = "Template as YAML; docs/formats.md has the form." };
        var name = new Argument<string>("name") { Description = "Name of a template, as 'yardline checklist list' shows it." };
        var version = new Option<int?>("--version") { Description = "Its version; left out: the newest." };
        var kind = new Option<SwapKind?>("--kind") { Description = "The kind of swap to show it for." };
        yield return new Command("checklist", "Checklist templates.")
        {
            Call.Command(
                "list",
                "Lists templates and their versions.",
                "yardline checklist list",
                [],
                (c, r, _, cancel) => c.TemplatesAsync(r, cancel),
                all => Tables.Show(
                    ["Name", "Version", "Steps", "For"],
                    all.Select(t => new[]
                    {
                        t.Name,
                        $"{t.Version}",
                        $"{t.Steps}",
                        t.Kinds.Count == 0 ? "all kinds" : string.Join(", ", t.Kinds).ToLowerInvariant()
                    }),
                    1,
                    2)),
            Call.Command("print", "Prints a version of a template as YAML, to keep it, copy it or change it.",
                "yardline checklist print \"Change of computer\" > change.yaml", [name, version], async (c, r, a, cancel) =>
            {
                if (!(await c.TemplatesAsync(r, cancel)).TryGet(out var all, out var problem)) return problem;
                var found = all.Where(t =>
                    string.Equals(t.Name, a.GetValue(name), StringComparison.OrdinalIgnoreCase)
                        && (a.GetValue(version) is not { } v || t.Version == v))
                    .MaxBy(t => t.Version);
                return found is null
                    ? new ChecklistNoneProblem(a.GetValue(name), a.GetValue(version) is { } v ? $" of version {v}" : "")
                    : Result<string>.Of(found.Yaml);
            }, text => Tables.Say(text.TrimEnd())),
            Call.Command("look", "Shows how a template in a file would look, and what is wrong with it. Keeps nothing.",
                "yardline checklist look change.yaml --kind renew", [file, kind], async (c, r, a, cancel) =>
            {
                if (!Read(a.GetValue(file)!).TryGet(out var yaml, out var problem)) return problem;
                if (!(await c.PreviewTemplateAsync(r, new(yaml, a.GetValue(kind)), cancel)).TryGet(out var seen, out problem))
                    return problem;
                return seen.Faults.Count > 0
                    ? Result<TemplatePreview>.Failed([.. seen.Faults.Select(f => new ChecklistFormProblem(f.Line, f.Words))])
                    : seen;
            }, seen =>
            {
                Tables.Say($"{seen.Name}, for a swap of kind {seen.Kind.ToString().ToLowerInvariant()}");
                Tables.Show(
                    ["Phase", "Step", "Kind", "Only where", "Key"],
                    seen.Steps.Select(s => new[] { s.Phase, s.Title, s.Kind, seen.Conditions.GetValueOrDefault(s.Key, ""), s.Key }));
            }),
            Call.Command<TemplateSeen>(
                "add",
                "Adds a version of a template; swaps that have begun keep theirs.",
                "yardline checklist add change.yaml",
                [file],
                async (c, r, a, cancel) =>
                    Read(a.GetValue(file)!).TryGet(out var yaml, out var problem) ? await c.AddTemplateAsync(r, yaml, cancel) : problem,
                t => Tables.Say(
                    $"{t.Name}, version {t.Version}, with {t.Steps} steps. Swaps keep the version they have; 'yardline checklist move "
                        + $"\"{t.Name}\" --dry-run' says which could move.")),
            ChecklistMoveVerb.CreateUses(),
            ChecklistMoveVerb.CreateMove(),
        };

        var swap = new Argument<string>("swap") { Description = "Id of the swap, such as autumn-0012." };
        var step = new Argument<string[]>("steps")
        {
            Description = "Keys of steps; 'yardline swap show' lists them.",
            Arity = ArgumentArity.OneOrMore
        };
        var tag = new Option<string?>("--tag") { Description = "For a scan: the tag that was read." };
        var answer = new Option<string?>("--answer") { Description = "For a text, a number or a choice: the answer." };
        var started = new Option<bool>("--started") { Description = "For what takes its time: it is started; without this it has ended." };
        var ran = new Option<bool>("--ran")
        {
            Description = "For what is done again and again: it was run once more, without its result; without this the result is reached."
        };
        var reason = new Option<string?>("--not-applicable") { Description = "Why the step does not apply." };
        var reopen = new Option<bool>("--reopen") { Description = "Open it again." };
        var one = new Argument<string>("step") { Description = "Key of the step." };
        var photo = new Argument<string>("photo") { Description = "The file." };
        yield return new Command("step", "Checklist steps.")
        {
            Call.Command<ChecklistSeen>("set", "Claims steps of a swap's checklist.",
                "yardline step set autumn-0012 old-tag --tag KB-1187\n  yardline step set autumn-0012 screens --answer 2\n  yardline step "
                    + "set autumn-0012 restarted --started",
                [
                swap, step, tag, answer, started, ran, reason, reopen
            ], async (c, _, a, cancel) =>
            {
                if (!(await c.SwapAsync(a.GetValue(swap)!, cancel)).TryGet(out var seen, out var problem)) return problem;
                StepChange change = a.GetValue(reopen)
                    ? new("reopened")
                    : a.GetValue(reason) is { } why
                    ? new("not-applicable", Reason: why)
                    : a.GetValue(tag) is { } read
                    ? new("scanned", read)
                    : a.GetValue(answer) is { } value
                        ? new("answered", Value: value)
                        : a.GetValue(started)
                        ? new("started")
                        : a.GetValue(ran)
                        ? new("ran")
                        : new("ticked");
                Result<ChecklistSeen> list = seen.Checklist;
                foreach (var key in a.GetValue(step)!)
                    if (list.IsOk) list = await c.SetStepAsync(a.GetValue(swap)!, key, change, list.Value.Version, cancel);
                return list;
            }, Dealt, needsRefresh: false),
            Call.Command<ChecklistSeen>("photo", "Does a step with a photo: JPEG, PNG or WebP. Place and camera are taken out of it.",
                "yardline step photo autumn-0012 desk desk.jpg", [swap, one, photo], async (c, _, a, cancel) =>
                !File.Exists(a.GetValue(photo)) ? new PhotoFileProblem(a.GetValue(photo))
                : !(await c.SwapAsync(a.GetValue(swap)!, cancel)).TryGet(out var seen, out var problem) ? problem
                : await c.TakePhotoAsync(
                    a.GetValue(swap)!,
                    a.GetValue(one)!,
                    await File.ReadAllBytesAsync(a.GetValue(photo)!, cancel),
                    seen.Checklist.Version,
                    cancel), Dealt, needsRefresh: false),
        };
    }

    private static void Dealt(ChecklistSeen list) =>
        Tables.Say(
            $"{list.Steps.Count(s => s.State is "done" or "not-applicable")} of {list.Steps.Count} steps are dealt with."
                + $"{(list.Steps.FirstOrDefault(s => s.State is "open" or "under-way" && s.Kind != "automatic") is { } next
                    ? $" Next: {next.Title} ({next.Key})."
                    : "")}");

    /// <summary><c>yardline swap checklist</c></summary>
    public static Command CreateForSwap()
    {
        var swap = new Argument<string>("swap") { Description = "Id of the swap, such as autumn-0012." };
        var template = new Option<string?>("--template")
        {
            Description = "Another template, by its name; left out: the one that the swap has."
        };
        var version = new Option<int?>("--version") { Description = "Its version; left out: the newest." };
        var move = new Option<bool>("--move") { Description = "Moves the swap; without this, only what would change is shown." };
        return Call.Command("checklist",
            "Shows what a newer version of its checklist would change for a swap, and moves it there when told to.",
            "yardline swap checklist autumn-0012 --move", [swap, template, version, move],
            (c, _, a, cancel) =>
                c.MoveChecklistAsync(a.GetValue(swap)!, new(a.GetValue(template), a.GetValue(version), !a.GetValue(move)), cancel),
            moved =>
            {
                if ((moved.FromTemplate, moved.FromVersion) == (moved.ToTemplate, moved.ToVersion))
                {
                    Tables.Say($"The swap has {moved.FromTemplate}, version {moved.FromVersion}. There is nothing to move.");
                    return;
                }
                Tables.Say(
                    $"{moved.FromTemplate}, version {moved.FromVersion} → {moved.ToTemplate}, version {moved.ToVersion}"
                        + $"{(moved.Done ? ": moved." : ": not moved yet; --move does it.")}");
                Tables.Show(
                    ["Change", "Step", "Key"],
                    moved.Steps.Select(s =>
                        new[] { s.What.Replace('-', ' ') + (s.WasDealtWith ? ", was dealt with" : ""), s.Title, s.Key }));
            }, needsRefresh: false);
    }

    private static Result<string> Read(string file) =>
        File.Exists(file) ? File.ReadAllText(file) : new ChecklistFileProblem(file);
}
