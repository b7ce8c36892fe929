using System.CommandLine;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary><c>yardline person</c>: the way to people's own pages.</summary>
internal static class PersonVerbs
{
    public static Command Create()
    {
        var swap = new Argument<string>("swap") { Description = "Id of the person's swap." };
        var handOver = new Option<bool>("--hand-over")
        {
            Description = "Shows the link, to be handed over, instead of sending it."
        };
        var command = new Command(
            "person",
            "People's own pages: make a personal link, list the links, withdraw them, see what was tried in vain; and what is kept about "
                + "people.")
        {
            Call.Command(
                "link",
                "Sends a personal link to the person's address on record; or, to hand over, makes one that is shown this once. It opens on "
                    + "one device only.",
                "yardline person link autumn-0012 --hand-over",
                [swap, handOver],
                (c, _, a, cancel) => c.MakePersonLinkAsync(
                    a.GetValue(swap)!, new(a.GetValue(handOver) ? "paper" : "mail"), cancel),
                made => Tables.Say(
                    made.SentTo is { } to
                        ? $"A new link is on its way to {to}. It is sent once an hour, however often it is asked for."
                        : $"{made.Address}\nOpens on the first device that opens it, until {made.Expires.OnClock():d MMM yyyy}. "
                            + "What is done by it is written down as done by a link that you handed over."),
                needsRefresh: false),
            Call.Command(
                "links",
                "The links of a swap, without their secrets.",
                "yardline person links autumn-0012",
                [swap],
                (c, _, a, cancel) => c.PersonLinksAsync(a.GetValue(swap)!, cancel),
                all => Tables.Show(
                    ["", "Made", "By", "Opened", "Last looked at", "Until"],
                    all.Select(l => new[]
                    {
                        l.State switch { "open" => "✓ open", "waits" => "○ waits", var other => $"– {other}" },
                        At(l.MadeAt),
                        l.MadeBy,
                        At(l.OpenedAt),
                        At(l.SeenAt),
                        $"{l.Expires.OnClock():d MMM yyyy}"
                    })),
                needsRefresh: false),
            Call.Command(
                "withdraw",
                "Withdraws all links of a swap; an open page is shut at once.",
                "yardline person withdraw autumn-0012",
                [swap],
                (c, _, a, cancel) => c.WithdrawPersonLinksAsync(a.GetValue(swap)!, cancel),
                w => Tables.Say(w.Links == 0
                    ? "There was no link to withdraw."
                    : w.Links == 1
                    ? "1 link is withdrawn."
                    : $"{w.Links} links are withdrawn."),
                needsRefresh: false),
            Call.Command(
                "refused",
                "How often links that open nothing were tried, by day and cause.",
                "yardline person refused",
                [],
                (c, _, _, cancel) => c.LinkRefusalsAsync(cancel),
                all => Tables.Show(
                    ["Day", "Cause", "Times"],
                    all.Select(r => new[]
                    {
                        $"{r.Day:yyyy-MM-dd}",
                        r.Cause switch { "unknown" => "guessed or altered", "elsewhere" => "opened on another device", var other => other },
                        $"{r.Count}"
                    }),
                    2),
                needsRefresh: false),
        };
        foreach (var privacy in PrivacyVerbs.Create(swap)) command.Subcommands.Add(privacy);
        return command;
    }

    private static string At(DateTimeOffset? at) => at is { } when ? $"{when.OnClock():ddd d MMM HH:mm}" : "";
}
