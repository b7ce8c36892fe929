using System.CommandLine;
using YardRelay.Client;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary>Hands: <c>yardline hand</c>.</summary>
internal static class HandVerbs
{
    public static Command Create()
    {
        var computers = new Argument<string[]>("tags")
        {
            Description = "Asset tags of computers; none: every computer of the refresh, for technicians those of their sites.",
            Arity = ArgumentArity.ZeroOrMore
        };
        var find = new Argument<string?>("find")
        {
            Description = "Part of a tag, a person, or what the computer calls itself.",
            DefaultValueFactory = _ => null
        };
        var computer = new Argument<string>("tag") { Description = "Asset tag of the computer." };
        return new Command("hand", "Hands: who is enrolled at which computer.")
        {
            Call.Command("code", "Makes one-time codes, each for the hand of one computer.", "yardline hand code KB-1187", [computers],
                (c, r, a, cancel) => CodesAsync(c, r, a.GetValue(computers) ?? [], cancel), all =>
            {
                foreach (var made in all)
                    Tables.Say($"{made.Code}   for {made.Tag}, once, until {made.Expires.LocalDateTime:ddd d MMM HH:mm}");
            }),
            Call.Command(
                "list",
                "Hands that are enrolled, by the tag of their computer.",
                "yardline hand list KB-11",
                [find],
                (c, r, a, cancel) => AllAsync(c, r, a.GetValue(find), cancel),
                Show),
            Call.Command(
                "withdraw",
                "The hand at a computer is none any more, and codes for it that nobody used are worth nothing.",
                "yardline hand withdraw KB-1187",
                [computer],
                (c, r, a, cancel) => c.WithdrawHandAsync(r, a.GetValue(computer)!, cancel),
                h => Tables.Say(
                    $"The hand at {h.Tag}, computer {h.Host}, is withdrawn."
                        + (h.Order is { } order
                            ? $" It had an order under way: {order.ToLowerInvariant()}. That waits for the next hand."
                            : ""))),
        };
    }

    private static void Show(List<HandSeen> hands)
    {
        Tables.Show(
            ["Computer", "Host", "Version", "Enrolled", "Last heard", "Under way", "Site", "Person", "Swap"],
            hands.Select(h => new[]
            {
                h.Tag,
                h.Host,
                h.Version ?? "?",
                $"{h.EnrolledAt.LocalDateTime:ddd d MMM HH:mm}",
                h.HeardAt is { } at ? $"{at.LocalDateTime:ddd d MMM HH:mm}" : "never",
                h.Order ?? "",
                h.Site,
                h.Name,
                h.Swap
            }));
        Tables.Say(hands.Count == 1 ? "1 hand." : $"{hands.Count} hands.");
    }

    private static async Task<Result<List<CodeMade>>> CodesAsync(
        YardClient client, string refresh, IReadOnlyList<string> tags, CancellationToken cancel)
    {
        var isAll = tags.Count == 0;
        if (isAll)
        {
            if (!(await SwapVerbs.AllAsync(client, refresh, null, null, cancel)).TryGet(out var swaps, out var problem)) return problem;
            tags = [.. swaps.SelectMany(s => new[] { s.OldTag, s.NewTag }).OfType<string>().Distinct()];
        }
        var all = new List<CodeMade>();
        foreach (var tag in tags)
        {
            if ((await client.MakeCodeAsync(refresh, tag, cancel)).TryGet(out var made, out var problem)) all.Add(made);
            else if (!isAll || problem is not Refused { Status: 403 }) return problem;
        }
        return all;
    }

    private static async Task<Result<List<HandSeen>>> AllAsync(
        YardClient client, string refresh, string? find, CancellationToken cancel)
    {
        var all = new List<HandSeen>();
        string? cursor = null;
        do
        {
            if (!(await client.HandsAsync(refresh, find, cursor, cancel)).TryGet(out var page, out var problem)) return problem;
            all.AddRange(page.Items);
            cursor = page.Next;
        }
        while (cursor is not null);
        return all;
    }
}
