using System.CommandLine;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.Inventories;
using YardRelay.Core.Carrying.Systems;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary>Folders to pick from, rules for places, and what goes between systems.</summary>
internal static class PlaceVerbs
{
    private static readonly TimeSpan LongestWait = TimeSpan.FromSeconds(90);

    /// <summary><c>yardline swap folders</c></summary>
    public static Command CreateFolders()
    {
        var swap = new Argument<string>("swap") { Description = "Id of the swap, such as autumn-0012." };
        var depth = new Option<int>("--depth") { Description = "How many folders deep.", DefaultValueFactory = _ => 2 };
        var oldest = new Option<bool>("--oldest-first")
        {
            Description = "Those that nobody changed for longest come first; else the largest."
        };
        return Call.Command<FoldersSeen>("folders",
            "Folders of the old computer with their sizes, to pick from for the carry list. The hand looks now; names pass through the "
                + "service's memory and into no record.",
            "yardline swap folders autumn-0012 --depth 3", [swap, depth, oldest], async (c, _, a, cancel) =>
        {
            var id = a.GetValue(swap)!;
            if (!(await c.GiveOrderAsync(id, new OrderWanted("folders"), cancel)).TryGet(out var order, out var problem)) return problem;
            using var limit = CancellationTokenSource.CreateLinkedTokenSource(cancel);
            limit.CancelAfter(LongestWait);
            try
            {
                while (true)
                {
                    var asked = await c.FoldersAsync(id, limit.Token);
                    if (!asked.IsOk) return asked.Problem;
                    if (asked.Value is { } seen && seen.At >= order.MadeAt)
                    {
                        var near = seen.Folders.Where(f => f.Path.Count(ch => ch == '/') < a.GetValue(depth));
                        return seen with
                        {
                            Folders = [.. a.GetValue(oldest) ? near.OrderBy(f => f.Newest ?? DateTimeOffset.MaxValue) : near]
                        };
                    }
                    await Task.Delay(TimeSpan.FromMilliseconds(500), limit.Token);
                }
            }
            catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
            {
                return new FoldersLateProblem(order.Tag, LongestWait.TotalSeconds);
            }
        }, seen =>
        {
            Tables.Show(
                ["Folder", "Files", "Size", "Newest"],
                seen.Folders.Select(f =>
                    new[]
                    {
                        f.Path + (f.Smaller > 0 ? $" (+{f.Smaller} smaller)" : ""),
                        $"{f.Files.Files:#,0}",
                        ByteText.Of(f.Files.Bytes),
                        $"{f.Newest:yyyy-MM-dd}"
                    }),
                1,
                2);
            Tables.Say("Decide with 'yardline swap carry-list ID --leave FOLDER --because WHY'.");
        }, needsRefresh: false);
    }

    /// <summary><c>yardline places</c></summary>
    public static Command Create()
    {
        var yes = Sure.Option;
        var file = new Argument<string>("file") { Description = "YAML with rules, in the form that 'yardline places standard' prints." };
        return new Command(
            "places", "Rules of the refresh's own by which surveys know places; they come before those that ship with the product.")
        {
            Call.Command(
                "show",
                "Prints the refresh's own rules.",
                "yardline places show",
                [],
                (c, r, _, cancel) => c.PlaceRulesAsync(r, cancel),
                s => Tables.Say(s.Yaml?.TrimEnd() ?? "No rules of its own; 'yardline places standard' prints those that ship.")),
            Call.Command(
                "standard",
                "Prints the rules that ship with the product: a start for rules of your own.",
                "yardline places standard > places.yaml",
                [],
                (c, r, _, cancel) => c.PlaceRulesAsync(r, cancel),
                s => Tables.Say(s.Standard.TrimEnd())),
            Call.Command<PlaceRulesSeen>("set", "Sets the refresh's own rules; surveys from now on go by them.",
                "yardline places set places.yaml", [file], async (c, r, a, cancel) =>
                File.Exists(a.GetValue(file))
                    ? await c.PutPlaceRulesAsync(r, new(await File.ReadAllTextAsync(a.GetValue(file)!, cancel)), cancel)
                    : new PlacesFileProblem(a.GetValue(file)), s =>
                            Tables.Say($"{(s.Rules == 1 ? "1 rule is" : $"{s.Rules} rules are")} set. Order surveys again to go by them.")),
            Call.Command(
                "drop",
                "Takes the refresh's own rules out.",
                "yardline places drop --yes",
                [yes],
                async (c, r, a, cancel) => Sure.Against(a, yes, "The refresh's own rules go, and with them what was written.") is { } no
                    ? no
                    : await c.PutPlaceRulesAsync(r, new(""), cancel),
                _ => Tables.Say("Taken out; surveys go by the rules that ship.")),
        };
    }

    /// <summary><c>yardline between</c></summary>
    public static Command CreateBetween()
    {
        Option<string> System(string name, string what) =>
            new(name)
            {
                Description =
                    $"{what}: windows, mac or linux; with '-32' at its end for 32 bits, with '-fat' for a disk in FAT32 or exFAT.",
                Required = true
            };
        var (from, to) = (System("--from", "System of the old computer"), System("--to", "System of the new one"));
        var command = new Command(
            "between",
            "What goes between kinds of computers and systems, and what only by a clean start.\n\nExample:\n  yardline between --from "
                + "windows-32 --to linux")
            {
                from, to
            };
        command.SetAction(a =>
        {
            if (Read(a.GetValue(from)!) is not { } old || Read(a.GetValue(to)!) is not { } @new)
            {
                Surroundings.Here.Error.WriteLine(
                    $"'{a.GetValue(Read(a.GetValue(from)!) is null ? from : to)}' is no system that is known here. Say windows, mac or "
                        + $"linux; with '-32' at its end for 32 bits, with '-fat' for a disk in FAT32 or exFAT.");
                return 2;
            }
            Tables.Show(
                ["", "What", "How"],
                BetweenSystems.Of(old, @new).Select(l =>
                    new[] { l.Passage switch { Passage.Goes => "✓", Passage.WithCare => "▲", _ => "○" }, l.What, l.Words }));
            Tables.Say("✓ comes along   ▲ comes along with care   ○ clean start");
            return 0;
        });
        return command;
    }

    private static ComputerKind? Read(string text)
    {
        var parts = text.Trim().ToLowerInvariant().Split('-');
        HomePlatform? platform = parts[0] switch
        {
            "windows" => HomePlatform.Windows,
            "mac" => HomePlatform.Mac,
            "linux" => HomePlatform.Linux,
            _ => null
        };
        if (platform is not { } known || parts.Skip(1).Any(p => p is not ("32" or "64" or "fat"))) return null;
        return new(
            known,
            parts.Contains("32") ? 32 : 64,
            parts.Contains("fat") ? DiskKind.Plain : known == HomePlatform.Linux ? DiskKind.Full : DiskKind.NoCase);
    }
}
