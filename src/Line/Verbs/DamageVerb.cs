using System.CommandLine;
using YardRelay.Contracts;
using YardRelay.Core.Custody;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary><c>yardline depot damaged</c>: what lies in a depot may be damaged.</summary>
internal static class DamageVerb
{
    public static Command Create()
    {
        var key = new Argument<string>("key") { Description = "Key of the depot." };
        var why = new Option<string>("--why") { Description = "What happened to it.", Required = true };
        var look = new Option<bool>("--look") { Description = "Only says what it would mean." };
        return Call.Command(
            "damaged",
            "What lies in a depot may be damaged: nothing there counts as verified any more, and it is said whose only copy it may be.",
            "yardline depot damaged cloud --why 'a disk of the array failed' --look",
            [key, why, look],
            (c, r, a, cancel) => c.TellDamageAsync(r, a.GetValue(key)!, new(a.GetValue(why)!, a.GetValue(look)), cancel),
            Show);
    }

    private static void Show(DamageSeen seen)
    {
        Tables.Say($"{seen.Words}.{(seen.Done ? "" : " Only looked; this is what it would mean:")}");
        if (seen.Total == 0) Tables.Say("No parcel lies in it.");
        else
        {
            Tables.Show(
                ["", "Files beside it", "Person", "Site", "What to do", "Swap"],
                seen.Parcels.Select(p => new[] { Sign(p.Beside), Words(p.Beside), p.Name, p.Site, p.Remedy, p.Swap }));
            if (seen.Total > seen.Parcels.Count) Tables.Say($"And {seen.Total - seen.Parcels.Count} more.");
        }
        if (seen.Copies > 0)
            Tables.Say($"{seen.Copies} second {(seen.Copies == 1 ? "copy" : "copies")} of other depots' parcels in it count no more.");
        if (seen is { Done: true, Total: > 0 })
            Tables.Say("None of them counts as verified. 'yardline swap order verify SWAP…' reads them again.");
    }

    private static string Sign(FilesBeside beside) => beside switch
    {
        FilesBeside.Nowhere => "■",
        FilesBeside.NewComputer => "✓",
        _ => "▲",
    };

    private static string Words(FilesBeside beside) => beside switch
    {
        FilesBeside.Nowhere => "nowhere",
        FilesBeside.Copy => "second copy",
        FilesBeside.OldComputer => "old computer",
        _ => "new computer",
    };
}
