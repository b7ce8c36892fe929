using System.Globalization;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Checklists;
using YardRelay.Core.Custody;
using YardRelay.Core.Detours;
using YardRelay.Core.FollowUps;
using YardRelay.Core.Orders;
using YardRelay.Core.Planning;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.Checklists;
using YardRelay.Service.Clocks;
using YardRelay.Service.Facts;
using YardRelay.Service.FollowUps;
using YardRelay.Service.Keeping;
using YardRelay.Service.Orders;
using YardRelay.Service.Planning;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Detours;

/// <summary>Takes a swap on its other way within a change.</summary>
/// <param name="account">Of whoever says it: follow-ups that nobody else owns are theirs.</param>
/// <param name="reaches">Whether they work at a site: swaps and spares at others are not theirs to take from.</param>
/// <param name="ended">Null: it is only looked what would be.</param>
internal sealed partial class DetourWork(Change w, SwapRow swap, string account, Func<string, bool> reaches, Ended? ended)
{
    private const int MostNamed = 20;

    /// <summary>Minutes that somebody at the desk waits for a time that was another's.</summary>
    private const int MostWait = 60;
    private readonly RefreshClock _clock = new(w.Refresh);
    private readonly List<string> _lines = [];

    /// <summary>What follows, each in a sentence.</summary>
    public IReadOnlyList<string> Lines => _lines;

    /// <returns>What happened, in a sentence.</returns>
    public Task<Result<string>> RunAsync(DetourTold told, CancellationToken cancel) => told.Kind switch
    {
        DetourKind.NoShow => NoShowAsync(told, cancel),
        DetourKind.Late => LateAsync(told, cancel),
        DetourKind.PersonGone => PersonGoneAsync(told, cancel),
        DetourKind.WrongComputer => WrongComputerAsync(told, cancel),
        DetourKind.DeadOnArrival => DeadOnArrivalAsync(told, cancel),
        DetourKind.OldDiskDied => OldDiskDiedAsync(told, cancel),
        DetourKind.CalledOff => CalledOffAsync(told, cancel),
        DetourKind.Resumed => ResumedAsync(cancel),
        DetourKind.Stolen => MissingAsync(CustodyAct.Stolen, told, cancel),
        DetourKind.Lost => MissingAsync(CustodyAct.Lost, told, cancel),
        DetourKind.Found => FoundAsync(told, cancel),
        DetourKind.Later => LaterAsync(told, cancel),
        DetourKind.WrongPerson => WrongPersonAsync(told, cancel),
        DetourKind.FilesMissed => FilesMissedAsync(told, cancel),
        _ => throw new System.Diagnostics.UnreachableException(),
    };

    private async Task<Result<string>> NoShowAsync(DetourTold told, CancellationToken cancel)
    {
        swap.Missed++;
        var times = swap.Missed switch
        {
            1 => "",
            2 => " for the second time",
            3 => " for the third time",
            var n => $" for the {n}th time"
        };
        var words = $"{swap.Name} was not there on {When(swap.Start!.Value)}{times}{Because(told.Reason)}";
        var facts = await ChecklistFacts.ReadAsync(w.Db, swap, cancel);
        swap.Prepared = facts.Steps.Where(s => s.Step.IsOnNew && s.Step.Phase == Phase.Before).ToList() is { Count: > 0 } bench
            && bench.TrueForAll(s => !s.State.IsOpen);
        await WithdrawAsync(o => o.State == OrderStates.Waiting, cancel);
        if (told.Soonest == true)
        {
            var tomorrow = (Minutes.DayOf(_clock.MinuteOf(w.Now)) + 1) * Minutes.PerDay;
            if (!(await PlaceAsync(
                desk => desk.Soonest(swap.Id, desk.WhoWorksAt(swap.Site), tomorrow, w.Refresh.Days * Minutes.PerDay),
                $"{words}, and nobody has room before the refresh ends.",
                cancel))
                .TryGet(out _, out var problem))
                return problem;
        }
        else await FreeAsync($"{words}.", cancel);
        if (swap.Start is null)
            await FollowUpAsync(
                $"Find another time with {swap.Name}, who was not there on {When(w.Now)}{times}.", FollowUpHold.Nothing, cancel);
        return words;
    }

    private async Task<Result<string>> LateAsync(DetourTold told, CancellationToken cancel)
    {
        var was = swap.Start!.Value;
        var from = _clock.MinuteOf(was) + told.Minutes!.Value;
        var words = $"{swap.Name} comes {told.Minutes} min late or more to {When(was)}{Because(told.Reason)}";
        var mine = swap.Technician!;
        var until = (Minutes.DayOf(from) + 1) * Minutes.PerDay;
        // Their own technician first, who knows the swap; nobody else's promise is moved for it.
        var placed = await PlaceAsync(
            desk => desk.Soonest(swap.Id, [mine], Math.Max(from, _clock.MinuteOf(w.Now)), until)
                ?? desk.Soonest(swap.Id, desk.WhoWorksAt(swap.Site), Math.Max(from, _clock.MinuteOf(w.Now)), until),
            $"{words}, and nobody has room later that day.",
            cancel);
        if (!placed.TryGet(out _, out var problem)) return problem;
        if (swap.Start is null) await FollowUpAsync($"Find another time with {swap.Name}, who was late.", FollowUpHold.Nothing, cancel);
        return words;
    }

    private async Task<Result<string>> PersonGoneAsync(DetourTold told, CancellationToken cancel)
    {
        var words = $"{swap.Name} does not come any more: {told.Reason}";
        if (told.Receiver is not { Length: > 0 } receiver)
        {
            _lines.Add("Nobody is named who receives the files, so the swap is called off.");
            await OffAsync($"{swap.Name} is gone: {told.Reason}", cancel);
            return words;
        }
        if (swap.OldTag is null)
            return new NothingToReceive(swap.Name);
        if (swap.SwappedAt is not null)
            return new NewComputerInUse(swap.Name);
        if (await w.Db.People.FirstOrDefaultAsync(p => p.Refresh == swap.Refresh && p.Key == receiver, cancel) is not { } person)
            return ServiceProblem.NotFound("person", receiver);
        if (person.Key == swap.Person) return new ReceiverIsGone(swap.Name);
        var facts = await ChecklistFacts.ReadAsync(w.Db, swap, cancel);
        await WithdrawAsync(o => o.State == OrderStates.Waiting && o.Tag != swap.OldTag, cancel);
        await ToSpareAsync(null, cancel);
        (swap.NewTag, swap.NewModel, swap.Prepared) = (null, null, false);
        (swap.Kind, swap.Receiver) = (SwapKind.Leave, person.Key);
        await KindMove.ToKindAsync(w, swap, facts, cancel);
        _lines.Add($"It goes on as a leave: {person.Name} receives the files, once they accept them.");
        await FreeAsync($"{words}. It is planned anew as a leave.", cancel);
        await FollowUpAsync($"Tell {person.Name} that the files of {swap.Name} come to them.", FollowUpHold.Wipe, cancel);
        return words;
    }

    private async Task<Result<string>> CalledOffAsync(DetourTold told, CancellationToken cancel)
    {
        await OffAsync(told.Reason!, cancel);
        return $"The swap of {swap.Name} is called off: {told.Reason}";
    }

    private async Task OffAsync(string reason, CancellationToken cancel)
    {
        await WithdrawAsync(_ => true, cancel);
        if (swap.NewTag is not null)
        {
            await ToSpareAsync(
                swap.SwappedAt is null ? null : $"It stands at {swap.Name}'s desk: bring it back and set it up afresh first.", cancel);
            (swap.NewTag, swap.Prepared) = (null, false);
        }
        await FreeAsync("It is called off.", cancel);
        (swap.CalledOffAt, swap.CalledOffBecause, swap.LeftOutBecause) = (w.Now, reason, null);
        SwapFacts.Settle(swap);
        if (swap.OldTag is not null && swap.HandedInAt is null)
            _lines.Add($"{swap.OldTag} stays in use; it is neither wiped nor handed in.");
        if (SwapFacts.HasParcel(swap) && swap.PurgedAt is null)
            _lines.Add("What was carried is held as long as the depot says, counted from today, and can be restored until then.");
    }

    private async Task<Result<string>> ResumedAsync(CancellationToken cancel)
    {
        (swap.CalledOffAt, swap.CalledOffBecause, swap.LeftOutBecause) = (null, null, null);
        if (swap.Kind.NeedsNew() && swap.NewTag is null)
        {
            if ((await SparesAsync(cancel)).Find(s => s.Model == swap.NewModel) is { } spare)
            {
                w.Db.Spares.Remove(spare);
                await ReplaceAsync(swap, spare.Key, spare.Model, cancel);
                _lines.Add($"{spare.Key}, a spare, is its new computer.");
            }
            else _lines.Add("It has no new computer: say with 'wrong computer' which one it gets.");
        }
        SwapFacts.Settle(swap);
        _lines.Add("The next plan finds it a time.");
        return $"The swap of {swap.Name} takes place after all";
    }

    private async Task WithdrawAsync(Func<OrderRow, bool> which, CancellationToken cancel)
    {
        foreach (var order in await OrderGiving.WithdrawAsync(w, swap.Id, which, "Withdrawn: something went otherwise", cancel))
            _lines.Add($"{Order.WordsOf(order.Kind)} {ServiceHand.At(order.Tag)} is withdrawn.");
    }

    /// <summary>Takes the appointment away; whoever plans next gives it another.</summary>
    private async Task FreeAsync(string because, CancellationToken cancel)
    {
        var had = swap.Start is { } start ? When(start) : null;
        (swap.PinnedStart, swap.PinnedTechnician) = (null, null);
        Booking.LeaveOut(w, swap, because);
        if (await PlanReader.RowAsync(w.Db, w.Refresh.Key, "published", cancel) is { } row)
        {
            var body = PlanReader.BodyOf(row);
            row.Body = PlanFile.Write(new(
                [.. body.Placed.Where(p => Core.Planning.Worlds.WorldProblem.SwapOf(p.Id) != swap.Id)],
                [.. body.Unplaced.Where(u => u.Id != swap.Id), new Unplaced(swap.Id, because)]));
        }
        if (had is not null) _lines.Add($"Its appointment of {had} is free for others.");
    }

    /// <summary>Finds another time on the board; without one the swap has none.</summary>
    private async Task<Result<bool>> PlaceAsync(Func<BoardDesk, Placed?> find, string because, CancellationToken cancel)
    {
        (swap.PinnedStart, swap.PinnedTechnician) = (null, null);
        if (!(await BoardDesk.LayAsync(w, [swap.Id], cancel)).TryGet(out var desk, out var problem)) return problem;
        find(desk);
        await desk.BookAsync(because, cancel);
        var name = swap.Technician is null
            ? null
            : await w.Db.Technicians.Where(t => t.Refresh == swap.Refresh && t.Key == swap.Technician)
                .Select(t => t.Name)
                .FirstOrDefaultAsync(cancel);
        _lines.Add(swap.Start is { } start
            ? $"New appointment: {When(start)} with {name ?? swap.Technician}. Nobody else is moved."
            : "There is no room; the next plan finds a time.");
        return swap.Start is not null;
    }

    private async Task FollowUpAsync(
        string words, FollowUpHold holds, CancellationToken cancel, DateTimeOffset? due = null, string cause = "detour")
    {
        if ((await FollowUpDesk.AddAsync(w, swap.Id, words, account, due, holds, cause, cancel)).TryGet(out var opened, out var refused))
            _lines.Add($"Follow-up for {opened.OwnerName}{(due is { } at ? $" until {When(at)}" : "")}: {opened.Words}");
        else _lines.Add($"To be done, and no follow-up says so ({refused.Message}): {words}");
    }

    private string When(DateTimeOffset at) => _clock.Local(at).ToString("ddd d MMM HH:mm", CultureInfo.InvariantCulture);

    private static string Because(string? reason) => reason is { Length: > 0 } ? $": {reason}" : "";

    private static bool Same(string? a, string? b) => a is not null && string.Equals(a, b, StringComparison.OrdinalIgnoreCase);
}
