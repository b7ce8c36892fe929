using System.CommandLine;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary>A technician's day: <c>yardline round</c>, and handing swaps over.</summary>
internal static class RoundVerbs
{
    /// <summary><c>yardline round</c></summary>
    public static Command Create()
    {
        var technician = new Option<string?>("--technician") { Description = "Key of a technician; left out: you." };
        return Call.Command(
            "round",
            "What to do now, what comes after it, and what goes on by itself meanwhile.",
            "yardline round",
            [technician],
            (c, r, a, cancel) => c.RoundAsync(r, a.GetValue(technician), cancel),
            Show);
    }

    private static void Show(RoundSeen round)
    {
        if (round.Turns.Count == 0)
            Tables.Say(round.Alone.Count == 0
                ? $"{round.Name}, {round.Day:dddd d MMMM}: nothing more to do{(round.Over > 0 ? $"; {round.Over} over" : "")}."
                : $"{round.Name}, {round.Day:dddd d MMMM}: nothing needs your hands now.");
        else
        {
            var first = round.Turns[0];
            var now = first.Start <= round.Now;
            Tables.Say(
                $"{(now ? "Now" : $"At {first.Start.OnClock():HH:mm}")}: {first.Name}, {first.Site}"
                    + $"{(first.Room is null ? "" : ", " + first.Room)}. {first.Words.TrimEnd('.')}."
                    + $"{(first.StepTitle is { } step ? $" Next step: {step} ({first.Step})." : "")}{Late(first)}");
            Tables.Say($"  yardline swap show {first.Swap}");
        }
        if (round.Turns.Count > 1)
            Tables.Show(
                ["Then", "Person", "", "Where", "", "Swap"],
                round.Turns.Skip(1).Select(t =>
                    new[]
                    {
                        $"{t.Start.OnClock():HH:mm}–{t.End.OnClock():HH:mm}",
                        t.Name,
                        Part(t.Part),
                        t.Site + (t.Room is null ? "" : ", " + t.Room),
                        t.Words + Late(t),
                        t.Swap
                    }));
        if (round.Alone.Count > 0)
            Tables.Show(
                ["Goes on by itself", "", "Until", "Where", "Swap"],
                round.Alone.Select(a =>
                    new[]
                    {
                        a.Name,
                        a.Words,
                        a.Until is { } until ? $"{until.OnClock():HH:mm}" : "",
                        a.Site + (a.Room is null ? "" : ", " + a.Room),
                        a.Swap
                    }));
    }

    private static string Late(RoundTurnSeen turn) =>
        turn.LateMinutes > 0 ? $" Promised {turn.Promised!.Value.OnClock():HH:mm}: {turn.LateMinutes} min late." : "";

    private static string Part(string part) => part switch
    {
        "bench" => "bench",
        "first" => "first part",
        "go-on" => "in hand",
        _ => "back"
    };

    /// <summary><c>yardline swap hand-over</c></summary>
    public static Command CreateHandover()
    {
        var swap = new Argument<string>("swap") { Description = "Id of the swap." };
        var to = new Option<string>("--to") { Description = "Key of the technician who takes it.", Required = true };
        var note = new Option<string>("--note") { Description = "What they must know.", Required = true };
        var dry = new Option<bool>("--dry-run") { Description = "Only say whose appointment would change." };
        return Call.Command("hand-over", "Passes a swap to another technician who is free for it; its time stays.",
            "yardline swap hand-over autumn-0012 --to vera --note 'restore runs until three, printer cable is in my bag'",
            [swap, to, note, dry],
            (c, _, a, cancel) =>
                c.HandOverAsync(a.GetValue(swap)!, new(a.GetValue(to)!, a.GetValue(note)!, a.GetValue(dry)), cancel), seen =>
        {
            Tables.Say(seen.Done ? $"{seen.To} has {seen.Name} now." : "Only looked; nothing is changed. It would be so:");
            foreach (var change in seen.Changes) Tables.Say(change);
        }, needsRefresh: false);
    }

    /// <param name="Hears">Those whose time moved: who will hear it by mail, and who will not.</param>
    private sealed record HandedDay(DayHandoverSeen Day, IReadOnlyList<ToldSeen> Hears);

    /// <summary><c>yardline technician hand-over-day</c></summary>
    public static Command CreateDayHandover()
    {
        var technician = new Argument<string>("technician") { Description = "Key of the technician who goes." };
        var to = new Option<string[]>("--to")
        {
            Description = "Keys of those who take over.",
            Required = true,
            AllowMultipleArgumentsPerToken = true
        };
        var note = new Option<string>("--note") { Description = "What they must know.", Required = true };
        var dry = new Option<bool>("--dry-run") { Description = "Only say what would become of each." };
        return Call.Command("hand-over-day",
            "Passes all that is left of a technician's day to others: what is under way at once, what is promised where the planning "
                + "engine finds room.",
            "yardline technician hand-over-day noor --to vera theo --note 'gone home ill'", [technician, to, note, dry],
            async (c, r, a, cancel) =>
            {
                var wanted = new DayHandoverWanted(a.GetValue(to)!, a.GetValue(note)!, a.GetValue(dry));
                if (!(await c.HandOverDayAsync(r, a.GetValue(technician)!, wanted, cancel)).TryGet(out var seen, out var refused))
                    return refused;
                var moved = seen.Swaps.Where(s => s.Start != s.Was).Select(s => s.Swap).ToHashSet();
                return Result<HandedDay>.Of(
                    new(seen, seen.Done && moved.Count > 0 ? await PublishedText.WhoHearsAsync(c, r, moved.Contains, cancel) : []));
            },
            day =>
        {
            var seen = day.Day;
            Tables.Show(
                ["Swap", "Person", "", ""], seen.Swaps.Select(s => new[] { s.Swap, s.Name, s.To is null ? "▲" : "✓", s.Words }));
            Tables.Say(seen.Done ? $"{seen.Name}'s day is handed over." : "Only looked; nothing is changed.");
            PublishedText.ShowWhoHears(day.Hears);
        });
    }
}
