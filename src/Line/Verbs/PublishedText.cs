using YardRelay.Client;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary>A plan that was published, and who has not heard their time since.</summary>
/// <param name="Hears">Those who will hear it by mail, and those who will not.</param>
internal sealed record PublishedPlan(PlanSeen Plan, IReadOnlyList<ToldSeen> Hears);

/// <summary>What is said after publishing: who is told when, and who is to be called.</summary>
internal static class PublishedText
{
    private const int MostNamed = 30, FewOfOneCause = 5;
    private static readonly string[] OfTimes = ["booked", "moved", "unbooked"];

    public static async Task<Result<PublishedPlan>> WithWhoHearsAsync(
        YardClient client, string refresh, Result<PlanSeen> published, CancellationToken cancel)
    {
        if (!published.TryGet(out var plan, out _)) return Result<PublishedPlan>.Failed(published.Problems);
        return new PublishedPlan(plan, await WhoHearsAsync(client, refresh, _ => true, cancel));
    }

    /// <summary>Those of some swaps who have not heard their time: by mail they will, or they will not.</summary>
    public static async Task<IReadOnlyList<ToldSeen>> WhoHearsAsync(
        YardClient client, string refresh, Func<string, bool> which, CancellationToken cancel)
    {
        // What was done is done, whatever becomes of this question.
        var told = await client.ToldAsync(refresh, null, cancel);
        return told.IsOk
            ? [.. told.Value.People.Where(p => which(p.Swap) && (p.Next is { Why: not null } || OfTimes.Contains(p.Next?.Moment)))]
            : [];
    }

    public static void Show(PublishedPlan published)
    {
        var p = published.Plan;
        Tables.Say($"Plan {p.Number} is published: {p.Appointments.Count} appointments, {p.LeftOut.Count} left out.");
        ShowWhoHears(published.Hears);
    }

    public static void ShowWhoHears(IReadOnlyList<ToldSeen> hears)
    {
        var (due, never) = (hears.Where(h => h.Next?.Due is not null).ToList(), hears.Where(h => h.Next?.Why is not null).ToList());
        if (due.Count > 0)
        {
            var (first, last) = (due.Min(h => h.Next!.Due!.Value).OnClock(), due.Max(h => h.Next!.Due!.Value).OnClock());
            var when = first == last ? $"{first:ddd d MMM HH:mm}" : $"between {first:ddd d MMM HH:mm} and {last:ddd d MMM HH:mm}";
            Tables.Say(
                $"{People(due.Count, "is", "are")} told by mail {when}. 'yardline notice again {due[0].Next!.Moment} ID …' tells them at "
                    + "once.");
        }
        if (never.Count == 0) return;
        // One cause for all, such as that nobody is told at all, is one thing to know.
        if (never.Count > FewOfOneCause && never.All(h => h.Next!.Why == never[0].Next!.Why))
        {
            Tables.Say(
                $"▲ {People(never.Count, "has", "have")} not been told their time: {never[0].Next!.Why}. 'yardline notice told' names "
                    + "them.");
            return;
        }
        Tables.Say($"■ {People(never.Count, "does", "do")} not hear of their time by mail. Call them, then 'yardline step set ID told':");
        Tables.Show(
            ["Person", "Site", "Room", "When", "Why", "Swap"],
            never.Take(MostNamed).Select(h => new[]
            {
                h.Name, h.Site, h.Room ?? "", h.Start is { } at ? $"{at.OnClock():ddd d MMM HH:mm}" : "no time any more",
                h.Next!.Why!, h.Swap
            }));
        if (never.Count > MostNamed) Tables.Say($"and {never.Count - MostNamed} more: 'yardline notice told'.");
    }

    private static string People(int count, string one, string many) => count == 1 ? $"1 person {one}" : $"{count} people {many}";
}
