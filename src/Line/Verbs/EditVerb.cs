using System.CommandLine;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary><c>yardline swap edit</c>: tells planning about many swaps at once.</summary>
internal static class EditVerb
{
    public static Command Create()
    {
        var swaps = new Argument<string[]>("swap")
        {
            Description = "Ids of swaps; or 'all', or 'find:TEXT' for those that 'swap list TEXT' shows.",
            Arity = ArgumentArity.OneOrMore
        };
        Option<string[]?> Many(string name, string description) =>
            new(name) { Description = description, AllowMultipleArgumentsPerToken = true };
        var wave = new Option<string?>("--wave") { Description = "Key of a wave; empty: none." };
        var weight = new Option<int?>("--weight") { Description = "What leaving it out counts, 1 to 9." };
        var (skills, free, preferred) = (
            Many("--skill", "What the technician must know; repeat for more, empty: nothing."),
            Many("--free", "When person and room are free, '2026-11-25 08:00-12:00'; empty: always."),
            Many("--prefers", "What the person asked for, in the same form."));
        var pin = new Option<string?>("--pin") { Description = "Fixes the time, '2026-11-26 09:15' by the clocks of the refresh." };
        var pinTo = new Option<string?>("--pin-to") { Description = "Fixes the technician, by key." };
        var unpin = new Option<bool>("--unpin") { Description = "Takes both pins out." };
        var depot = new Option<string?>("--depot") { Description = "Key of the depot to stage in; only where nothing is staged yet." };
        return Call.Command<SwapsEdited>("edit",
            "Changes wave, skills, weight, times, pins or depot of many swaps at once: all of them or none.",
            "yardline swap edit find:Ticketing --wave office --weight 7", [
            swaps, wave, weight, skills, free, preferred, pin, pinTo, unpin, depot
        ], async (c, r, a, cancel) =>
        {
            DateTimeOffset? start = null;
            if (a.GetValue(pin) is { } at)
            {
                if (!(await Call.TimeAsync(c, r, at, cancel)).TryGet(out var fixedAt, out var unread)) return unread;
                start = fixedAt;
            }
            var ids = new List<string>();
            foreach (var given in a.GetValue(swaps)!)
            {
                if (given != "all" && !given.StartsWith("find:", StringComparison.Ordinal))
                {
                    ids.Add(given);
                    continue;
                }
                for (string? cursor = ""; cursor is not null;)
                {
                    if (!(await c.SwapsAsync(r, given == "all" ? null : given["find:".Length..], null, cursor, cancel, 500))
                        .TryGet(out var page, out var refused))
                        return refused;
                    ids.AddRange(page.Items.Select(s => s.Id));
                    cursor = page.Next;
                }
            }
            static IReadOnlyList<string>? Given(string[]? values) =>
                values is null || values.Length == 0 ? null : [.. values.Where(v => v.Length > 0)];
            return await c.EditSwapsAsync(
                r,
                new(
                    [.. ids.Distinct()], a.GetValue(wave), Given(a.GetValue(skills)), a.GetValue(weight), Given(a.GetValue(free)),
                    Given(a.GetValue(preferred)), start, a.GetValue(pinTo), a.GetValue(unpin), a.GetValue(depot)),
                cancel);
        }, e => Tables.Say($"{e.Changed} {(e.Changed == 1 ? "swap" : "swaps")} changed, {e.Same} were so already."));
    }
}
