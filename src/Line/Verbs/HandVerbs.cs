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
        var yes = Sure.Option;
        var computer = new Argument<string>("tag") { Description = "Asset tag of the computer." };
        return new Command("hand", "Hands: who is enrolled at which computer.")
        {
            Call.Command("code", "Makes one-time codes, each for the hand of one computer.", "yardline hand code KB-1187", [computers],
                (c, r, a, cancel) => CodesAsync(c, r, a.GetValue(computers) ?? [], cancel), all =>
            {
                foreach (var made in all)
                    Tables.Say($"{made.Code}   for {made.Tag}, once, until {made.Expires.OnClock():ddd d MMM HH:mm}");
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
                "yardline hand withdraw KB-1187 --yes",
                [computer, yes],
                async (c, r, a, cancel) =>
                    Sure.Against(a, yes, $"The hand at {a.GetValue(computer)} opens nothing any more, and must be enrolled anew.") is { } no
                        ? no
                        : await c.WithdrawHandAsync(r, a.GetValue(computer)!, cancel),
                w => Tables.Say(Words(w))),
        };
    }

    private static string Words(HandWithdrawn withdrawn)
    {
        var codes = withdrawn.Codes switch
        {
            0 => "",
            1 => " A code that nobody had used is worth nothing any more.",
            var n => $" {n} codes that nobody had used are worth nothing any more.",
        };
        if (withdrawn.Hand is not { } hand) return "No hand was enrolled there." + codes;
        var order = hand.Order is { } under ? $" It had an order under way: {under.ToLowerInvariant()}. That waits for the next hand." : "";
        return $"The hand at {hand.Tag}, computer {hand.Host}, is withdrawn." + order + codes;
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
                $"{h.EnrolledAt.OnClock():ddd d MMM HH:mm}",
                h.HeardAt is { } at ? $"{at.OnClock():ddd d MMM HH:mm}" : "never",
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
            // Of all: what is at other sites, or missing, has none.
            else if (!isAll || (problem is not Refused { Status: 403 } && problem.Code != "hand.missing")) return problem;
        }
        return all;
    }

    private static Task<Result<List<HandSeen>>> AllAsync(
        YardClient client, string refresh, string? find, CancellationToken cancel) =>
        Pages.AllAsync(cursor => client.HandsAsync(refresh, find, cursor, cancel));
}
