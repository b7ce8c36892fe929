using System.CommandLine;
using YardRelay.Client;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Swaps;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary>Swaps and the day: <c>yardline today</c>, <c>swap</c>, <c>step</c>, <c>hand</c>.</summary>
internal static class SwapVerbs
{
    public static IEnumerable<Command> Create()
    {
        var day = new Option<DateOnly?>("--day") { Description = "Another day, such as 2026-11-26." };
        yield return Call.Command(
            "today",
            "The day at a glance.",
            "yardline today",
            [day],
            (c, r, a, cancel) => c.TodayAsync(r, a.GetValue(day), cancel),
            ShowDay);

        var swap = new Argument<string>("swap") { Description = "Id of the swap, such as autumn-0012." };
        var query = new Argument<string?>("find") { Description = "Part of a name, tag, room or id.", DefaultValueFactory = _ => null };
        var sort = new Option<string?>("--sort") { Description = "name, time or station." };
        var kind = new Argument<string>("kind") { Description = "survey, first-trip, top-up-trip, closing-trip, verify, look or restore." };
        var swaps = new Argument<string[]>("swaps")
        {
            Description = "Ids of swaps.",
            Arity = ArgumentArity.ZeroOrMore
        };
        var all = new Option<bool>("--all") { Description = "At every swap that can have it now." };
        var byService = new Option<bool>("--by-service")
        {
            Description =
                "Of a verify: the service itself reads the parcel, beside the depot, and no hand. In its own depot it does so by itself."
        };
        var byNeed = new Option<bool>("--by-need")
        {
            Description =
                "Of a trip: where the depot has less room than there is to carry, what is needed first comes as far as it fits, and the "
                    + "rest is named."
        };
        var beside = new Option<bool>("--beside")
        {
            Description =
                "Of a trip or restore: beside the person's own work, with low priority, and not while the computer runs on its battery."
        };
        var seconds = new Option<int>("--seconds") { Description = "Longest wait.", DefaultValueFactory = _ => 60 };
        var swapCommand = new Command("swap", "Swaps: find them, look at one, order work, sign off.")
        {
            Call.Command(
                "list",
                "Lists swaps.",
                "yardline swap list okafor",
                [query, sort],
                (c, r, a, cancel) => AllAsync(c, r, a.GetValue(query), a.GetValue(sort), cancel),
                ShowList),
            Call.Command(
                "show",
                "All of one swap: line, account, checklist, snags.",
                "yardline swap show autumn-0012",
                [swap],
                (c, _, a, cancel) => c.SwapAsync(a.GetValue(swap)!, cancel),
                SwapText.Show,
                needsRefresh: false),
            EditVerb.Create(),
            Call.Command("order", "Orders the hands to survey, carry, verify or restore.", "yardline swap order first-trip autumn-0012",
                [kind, swaps, all, byService, byNeed, beside],
                async (c, r, a, cancel) => a.GetValue(swaps) is { Length: > 0 } == a.GetValue(all)
                    ? new OrderWhichProblem(a.GetValue(kind)!)
                    : OrdersDone.Of(await c.GiveOrdersAsync(
                        r,
                        new(
                            a.GetValue(kind)!, a.GetValue(swaps) ?? [], a.GetValue(byService) ? true : null,
                            a.GetValue(byNeed) ? true : null, a.GetValue(beside) ? true : null, a.GetValue(all)),
                        cancel)),
                OrdersText.Say),
            Call.Command(
                "withdraw",
                "Withdraws the order that waits or is under way at a swap; what it brought stays.",
                "yardline swap withdraw autumn-0012",
                [swap],
                (c, _, a, cancel) => c.WithdrawOrderAsync(a.GetValue(swap)!, cancel),
                o => Tables.Say($"{o.GetProperty("kind").GetString()} at {o.GetProperty("tag").GetString()} is withdrawn."),
                needsRefresh: false),
            Call.Command(
                "pause",
                "Lets the work of a hand rest; it goes on where it stopped.",
                "yardline swap pause autumn-0012",
                [swap],
                (c, _, a, cancel) => c.PauseAsync(a.GetValue(swap)!, true, cancel),
                o => Tables.Say($"The {o.Kind} rests. 'yardline swap resume' lets it go on."),
                needsRefresh: false),
            Call.Command(
                "resume",
                "Lets the work of a hand go on.",
                "yardline swap resume autumn-0012",
                [swap],
                (c, _, a, cancel) => c.PauseAsync(a.GetValue(swap)!, false, cancel),
                o => Tables.Say($"The {o.Kind} goes on."),
                needsRefresh: false),
            SignOffVerbs.CreateForSwap(),
            Call.Command<string>(
                "wait",
                "Waits until no order is waiting or under way.",
                "yardline swap wait --seconds 120",
                [seconds],
                (c, r, a, cancel) => WaitAsync(c, r, TimeSpan.FromSeconds(a.GetValue(seconds)), cancel),
                Tables.Say),
        };
        foreach (var command in CargoVerbs.Create()
            .Append(ChecklistVerbs.CreateForSwap())
            .Append(PlaceVerbs.CreateFolders())
            .Concat(ParcelVerbs.Create())
            .Append(RoundVerbs.CreateHandover())
            .Append(FollowUpVerbs.CreateRefusal()))
            swapCommand.Subcommands.Add(command);
        yield return swapCommand;

        yield return SnagVerbs.Create();
        yield return HandVerbs.Create();
    }

    private static async Task<Result<string>> WaitAsync(YardClient client, string refresh, TimeSpan most, CancellationToken cancel)
    {
        var started = TimeProvider.System.GetTimestamp();
        while (true)
        {
            if (!(await AllAsync(client, refresh, null, null, cancel)).TryGet(out var swaps, out var problem)) return problem;
            var busy = swaps.Where(s => s.IsBusy).ToList();
            if (busy.Count == 0) return "No order is waiting or under way.";
            if (TimeProvider.System.GetElapsedTime(started) > most)
                return new SwapWaitProblem(
                    most.TotalSeconds, busy.Count, string.Join(", ", busy.Take(8).Select(s => $"{s.Name} ({s.Sign.Words})")));
            await Task.Delay(300, cancel);
        }
    }

    /// <summary>All swaps of a refresh, page after page.</summary>
    public static Task<Result<List<SwapListed>>> AllAsync(
        YardClient client, string refresh, string? query, string? sort, CancellationToken cancel) =>
        Pages.AllAsync(cursor => client.SwapsAsync(refresh, query, sort, cursor, cancel));

    private static void ShowList(List<SwapListed> swaps)
    {
        Tables.Show(
            ["Person", "Line", "", "Site", "Old", "New", "Appointment", "By", "Swap"],
            swaps.Select(s =>
                new[]
                {
                    s.Name,
                    LineText.Of(s),
                    LineText.Sign(s.Sign),
                    s.Site,
                    s.OldTag ?? "",
                    s.NewTag ?? "",
                    $"{s.Appointment?.Start.OnClock():ddd d MMM HH:mm}",
                    s.Appointment?.With ?? "",
                    s.Id
                }));
        Tables.Say($"{swaps.Count} swaps.");
    }

    private static void ShowDay(DaySeen day)
    {
        Tables.Say(
            $"{day.Day:dddd d MMMM}: {day.Swaps} swaps at {day.Sites} sites · {day.Done} done, {day.UnderWay} under way, {day.Stopped} "
                + $"stopped{(day.EndsAt is { } end ? $" · the day ends at {end.OnClock():HH:mm} as things stand" : "")}");
        if (day.Needs.Count > 0)
            Tables.Show(
                ["Needs you now", "", "Since"],
                day.Needs.Select(n => new[] { n.Name, (n.Sign == "stopped" ? "■ " : "▲ ") + n.Words, ByteText.Of(day.Now - n.Since) }));
        if (day.Moving.Count > 0)
            Tables.Show(
                ["On the move", "", "", "Done", "Rate"],
                day.Moving.Select(s =>
                    new[]
                    {
                        s.Name,
                        s.Moving!.Kind,
                        LineText.Of(s),
                        s.Moving.TotalBytes > 0
                            ? $"{ByteText.Of(s.Moving.Bytes)} of {ByteText.Of(s.Moving.TotalBytes)}"
                            : ByteText.Of(s.Moving.Bytes),
                        ByteText.Of(s.Moving.BytesPerSecond) + "/s"
                    }),
                3,
                4);
        if (day.Visits.Count > 0)
            Tables.Show(
                ["Visits", "When", "Technician", "Site", "", ""],
                day.Visits.Select(s =>
                    new[]
                    {
                        s.Name,
                        $"{s.Appointment!.Start.OnClock():HH:mm}–{s.Appointment.End.OnClock():HH:mm}",
                        s.Appointment.With,
                        s.Site + (s.Room is null ? "" : ", " + s.Room),
                        LineText.Of(s),
                        LineText.Sign(s.Sign)
                    }));
    }
}
