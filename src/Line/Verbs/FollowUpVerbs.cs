using System.CommandLine;
using YardRelay.Client;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.FollowUps;
using YardRelay.Core.Ids;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary><c>yardline follow-up</c>: what is still to be done beside the checklists.</summary>
internal static class FollowUpVerbs
{
    public static Command Create()
    {
        var swap = new Argument<string>("swap") { Description = "Id of the swap." };
        var words = new Argument<string>("words") { Description = "What is to be done." };
        var id = new Argument<string>("follow-up") { Description = "Id of the follow-up, as 'yardline follow-up list' shows it." };
        var outcome = new Argument<string>("outcome") { Description = "What came of it." };
        var owner = new Option<string?>("--for") { Description = "Account that it waits for; left out: you." };
        var due = new Option<string?>("--until")
        {
            Description = "When it is due, '2026-11-26 12:00' by the clocks of the refresh; left out: the end of tomorrow."
        };
        var holds = new Option<FollowUpHold?>("--holds") { Description = "What it holds up: nothing, wipe or signOff." };
        var newWords = new Option<string?>("--words") { Description = "Other words." };
        var visit = new Option<int?>("--come-back")
        {
            Description = "Somebody must come back for so many minutes: the first time that fits is promised."
        };
        var all = new Option<bool>("--all") { Description = "Also those that are done." };
        return new Command("follow-up", "Follow-ups: list them, open, change or end one.")
        {
            Call.Command(
                "list",
                "Follow-ups, due first.",
                "yardline follow-up list --for noor",
                [owner, all],
                (c, r, a, cancel) => c.FollowUpsAsync(r, a.GetValue(owner), null, a.GetValue(all) ? "all" : "open", cancel),
                ShowList),
            Call.Command(
                "open",
                "Opens a follow-up.",
                "yardline follow-up open autumn-0012 'printer on the quay does not answer' --for noor --holds signOff --come-back 30",
                [swap, words, owner, due, holds, visit],
                async (c, _, a, cancel) =>
                    (await DueAsync(c, a.GetValue(swap)!, a.GetValue(due), cancel)).TryGet(out var until, out var unread)
                        ? await c.OpenFollowUpAsync(
                            a.GetValue(swap)!,
                            new(a.GetValue(words)!, a.GetValue(owner), until, a.GetValue(holds), a.GetValue(visit)),
                            cancel)
                        : unread,
                Say,
                needsRefresh: false),
            Call.Command(
                "change",
                "Changes words, owner, time or hold.",
                "yardline follow-up change 0199… --for theo",
                [id, newWords, owner, due, holds],
                (c, _, a, cancel) => ChangeAsync(
                    c, a.GetValue(id)!, new(a.GetValue(newWords), a.GetValue(owner), null, a.GetValue(holds)), a.GetValue(due), cancel),
                Say,
                needsRefresh: false),
            Call.Command(
                "end",
                "Ends a follow-up with what came of it.",
                "yardline follow-up end 0199… 'new cable, prints'",
                [id, outcome],
                (c, _, a, cancel) => c.EndFollowUpAsync(a.GetValue(id)!, a.GetValue(outcome)!, cancel),
                Say,
                needsRefresh: false),
        };
    }

    private static async Task<Result<FollowUpSeen>> ChangeAsync(
        YardClient client, string id, FollowUpChange change, string? due, CancellationToken cancel)
    {
        if (!(await client.FollowUpAsync(id, cancel)).TryGet(out var found, out var refused)) return refused;
        return (await DueAsync(client, found.Swap, due, cancel)).TryGet(out var until, out var unread)
            ? await client.ChangeFollowUpAsync(found.Id, change with { Due = until }, cancel)
            : unread;
    }

    private static async Task<Result<DateTimeOffset?>> DueAsync(YardClient client, string swap, string? due, CancellationToken cancel)
    {
        if (due is null) return default(DateTimeOffset?);
        if (!SwapId.TryParse(swap, null, out var id)) return new SwapUnreadableProblem(swap);
        return (await Call.TimeAsync(client, id.Refresh, due, cancel)).TryGet(out var at, out var unread)
            ? at
            : unread;
    }

    /// <summary><c>yardline swap refuse</c></summary>
    public static Command CreateRefusal()
    {
        var swap = new Argument<string>("swap") { Description = "Id of the swap." };
        var words = new Argument<string>("words") { Description = "What the person misses." };
        return Call.Command(
            "refuse",
            "The person does not accept: opens a follow-up that holds the sign-offs.",
            "yardline swap refuse autumn-0012 'the tide tables are not there'",
            [swap, words],
            (c, _, a, cancel) => c.RefuseAsync(a.GetValue(swap)!, a.GetValue(words)!, cancel),
            Say,
            needsRefresh: false);
    }

    private static void ShowList(List<FollowUpSeen> all) =>
        Tables.Show(
            ["", "For", "Due", "Person", "What", "Comes back", "Holds", "Id"],
            all.Select(f => new[]
            {
                f.DoneAt is not null ? "✓" : f.Due < TimeProvider.System.GetUtcNow() ? "▲" : "○",
                f.OwnerName,
                $"{f.Due.OnClock():ddd d MMM HH:mm}",
                f.Name,
                f.Words + (f.Outcome is null ? "" : $" → {f.Outcome}"),
                f.Visit is null
                    ? ""
                    : f.Visit is { Start: { } back, Technician: { } who }
                    ? $"{back.OnClock():ddd d MMM HH:mm} {who}"
                    : "no time yet",
                f.Holds switch { FollowUpHold.SignOff => "sign-offs", FollowUpHold.Wipe => "wipe", _ => "" },
                f.Id
            }));

    private static string Back(ReturnVisitSeen? visit) =>
        visit is null
            ? ""
            : visit is { Start: { } start, Technician: { } who }
            ? $"\n{who} comes back on {start.OnClock():ddd d MMM HH:mm}, for {visit.Minutes} min."
            : $"\nSomebody must come back for {visit.Minutes} min; nobody has room, the next plan looks again.";

    private static void Say(FollowUpSeen f) =>
        Tables.Say(f.DoneAt is not null
            ? $"Ended by {f.DoneBy}: {f.Words} → {f.Outcome}"
            : $"For {f.OwnerName} until {f.Due.OnClock():ddd d MMM HH:mm}: {f.Words}"
                + $"{(f.Holds == FollowUpHold.SignOff
                    ? " Until then nothing is signed."
                    : f.Holds == FollowUpHold.Wipe
                    ? " Until then nothing is wiped."
                    : "")}{Back(f.Visit)}\n{f.Id}");
}
