using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Checklists;
using YardRelay.Core.Custody;
using YardRelay.Core.Detours;
using YardRelay.Core.FollowUps;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Checklists;
using YardRelay.Service.Facts;
using YardRelay.Service.Hands;
using YardRelay.Service.OldComputers;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Detours;

/// <summary>Old computers: one that is missing, one whose disk died, one that was found again.</summary>
internal sealed partial class DetourWork
{
    private const string WaivedAsDead = "The old disk died; it was not carried before.";
    private const string WaivedAsMissing = "The old computer is missing; it was not carried before.";
    private const string HandInOfMissing = "The old computer is missing, and is not handed in.";

    private async Task<Result<string>> OldDiskDiedAsync(DetourTold told, CancellationToken cancel)
    {
        var facts = await ChecklistFacts.ReadAsync(w.Db, swap, cancel);
        await WithdrawAsync(o => o.Tag == swap.OldTag, cancel);
        await ReckonAsync("the disk", WaivedAsDead, cancel);
        if (swap.Kind is SwapKind.Renew or SwapKind.Second) await ToRescueAsync(facts, cancel);
        else if (swap.Kind == SwapKind.Reimage)
            _lines.Add("A computer whose disk died is not set up afresh: a new disk, or a spare computer, takes its place.");
        await TellOfLossAsync(cancel);
        return $"The disk of {swap.OldTag} died{Because(told.Reason)}";
    }

    private async Task<Result<string>> MissingAsync(CustodyAct how, DetourTold told, CancellationToken cancel)
    {
        var tag = swap.OldTag!;
        var row = await OldComputerDesk.RowAsync(w, swap, cancel);
        var last = told.Where is { Length: > 0 } said ? said
            : row.Holder is { } holder ? $"the hands of {holder}"
            : row.Place ?? (swap.Room is { } room ? $"{swap.Site}, {room}" : swap.Site);
        if (await OldComputerDesk.AddAsync(
            w, swap, new(Guid.CreateVersion7(w.Now).ToString(), how, last, w.By, w.Now, w.Now), cancel) is { } refused)
            return refused;
        // What is set up afresh has files on it again once they were restored.
        var isEmpty = row.WipeResult == "done" && !(swap.Kind == SwapKind.Reimage && swap.RestoreAt is not null);
        var missing = new MissingComputer(
            tag, how, swap.Name, told.Disk ?? DiskSecrecy.Unknown, isEmpty, await OpenedDepotsAsync(tag, cancel));
        if (swap.CalledOffAt is not null) _lines.Add("The swap is called off, and stays so.");
        else if (!SwapFacts.IsOver(swap))
        {
            await WithdrawAsync(o => o.Tag == tag, cancel);
            if (swap.Kind == SwapKind.Rescue) _lines.Add("The swap is a rescue already, and goes on as one.");
            else if (swap.Kind == SwapKind.Reimage || (swap.RestoredAt is null && !isEmpty))
            {
                if (await GoOnWithoutAsync(told, cancel) is { } no) return no;
            }
            else await LeaveHandInAsync(cancel);
        }
        // What is ended stays so whatever becomes of this change: it comes when nothing refuses it any more.
        await ShutOutAsync(tag, cancel);
        foreach (var telling in missing.Tellings())
            await FollowUpAsync(telling.Words, telling.Holds, cancel, w.Now + telling.Within);
        return $"{tag} of {swap.Name} is {(how == CustodyAct.Stolen ? "stolen" : "lost")}, last at {last}{Because(told.Reason)}";
    }

    /// <summary>What its files are now, and how the swap goes on without the old computer.</summary>
    private async Task<Problem?> GoOnWithoutAsync(DetourTold told, CancellationToken cancel)
    {
        var facts = await ChecklistFacts.ReadAsync(w.Db, swap, cancel);
        if (swap.OldDiedAt is null)
        {
            swap.KindBefore = swap.Kind;
            if (SwapFacts.HasParcel(swap)) await ReckonAsync(swap.OldTag!, WaivedAsMissing, cancel);
            else await NothingCarriedAsync(cancel);
            await TellOfLossAsync(cancel);
        }
        if (swap.Kind == SwapKind.Leave)
        {
            await LeaveHandInAsync(cancel);
            return null;
        }
        if (swap.Kind == SwapKind.Reimage) await NotSetUpAsync(facts, cancel);
        if (swap.SwappedAt is null && await SpareForMissingAsync(told, cancel) is { } no) return no;
        await ToRescueAsync(facts, cancel);
        if (swap.SwappedAt is not null || told.Soonest != true) return null;
        var placed = await PlaceAsync(
            desk => desk.Soonest(
                swap.Id, desk.WhoWorksAt(swap.Site), _clock.MinuteOf(w.Now), w.Refresh.Days * Core.Planning.Minutes.PerDay),
            $"{swap.OldTag} is missing, and nobody has room before the refresh ends.",
            cancel);
        return placed.TryGet(out _, out var problem) ? null : problem;
    }

    /// <summary>What was set up afresh went with the computer.</summary>
    private async Task NotSetUpAsync(ChecklistFacts facts, CancellationToken cancel)
    {
        foreach (var step in facts.Steps.Select(s => s.Step).Where(s => s.Marks is Station.Swapped or Station.Accepted))
        {
            await w.Db.Steps.Where(s => s.Swap == swap.Id && s.Key == step.Key).ExecuteDeleteAsync(cancel);
            SwapFacts.Reach(swap, step.Marks!.Value, null);
        }
    }

    private async Task ToRescueAsync(ChecklistFacts facts, CancellationToken cancel)
    {
        swap.Kind = SwapKind.Rescue;
        await KindMove.ToKindAsync(w, swap, facts, cancel);
        // What the person was told is not so any more: that files are missing they hear anew.
        var told = facts.Steps.Where(s => s.Step.Marks == Station.Told && !s.State.IsOpen).Select(s => s.Step.Key).ToList();
        await w.Db.Steps.Where(s => s.Swap == swap.Id && told.Contains(s.Key)).ExecuteDeleteAsync(cancel);
        if (told.Count > 0) SwapFacts.Reach(swap, Station.Told, null);
        _lines.Add(
            "The swap goes on as a rescue"
                + $"{(!SwapFacts.HasParcel(swap) ? "" : swap.Trips > 0 ? ", from that trip" : ", from what that trip had brought")}.");
    }

    /// <summary>The planned new computer, or a spare, takes the place of the one that is missing.</summary>
    private async Task<Problem?> SpareForMissingAsync(DetourTold told, CancellationToken cancel)
    {
        var wanted = told.Tag is { Length: > 0 } ? told.Tag : null;
        if (wanted is null && swap.Kind != SwapKind.Reimage && swap.NewTag is { } planned)
        {
            _lines.Add($"{planned}, which was planned, takes its place.");
            return null;
        }
        var all = await SparesAsync(cancel);
        if ((wanted is null ? all.FirstOrDefault() : all.Find(s => Same(s.Key, wanted))) is not { } spare)
        {
            if (wanted is not null) return NoSuchSpare(wanted, all);
            _lines.Add("No spare computer is there: say with 'wrong computer' which one takes its place.");
            (swap.NewTag, swap.Prepared) = (swap.Kind == SwapKind.Reimage ? null : swap.NewTag, false);
            return null;
        }
        if (swap.Kind == SwapKind.Reimage) (swap.NewTag, swap.NewModel) = (null, null);
        else await ToSpareAsync(null, cancel);
        w.Db.Spares.Remove(spare);
        await ReplaceAsync(swap, spare.Key, spare.Model, cancel);
        _lines.Add($"{spare.Key}, a spare at {spare.Site}, takes its place.");
        return null;
    }

    /// <summary>What there is of the files, when nothing more can be read from where they were.</summary>
    /// <param name="where">Where the rest was: <c>the disk</c>, a tag.</param>
    /// <param name="waived">Why what is open is given up.</param>
    private async Task ReckonAsync(string where, string waived, CancellationToken cancel)
    {
        var names = await SnagNames.ReadAsync(w.Db, [swap.Id], cancel);
        var open = await w.Db.Snags.Where(n => n.Swap == swap.Id && n.Side == "old" && n.End == "open")
            .OrderBy(n => n.Path)
            .ToListAsync(cancel);
        var account = SwapFacts.Account(await w.Db.Folders.AsNoTracking().Where(f => f.Swap == swap.Id).ToListAsync(cancel), open);
        var there = account.Aggregate(Amount.None, (sum, f) => sum + f.InDepot);
        (swap.OldDiedAt, swap.RescuedFrom) = (w.Now, swap.Id);
        _lines.Add(swap.TripAt is { } last
            ? $"What there is, is trip {swap.Trips} of {When(last)}: {ByteText.Files(there.Files)}, {ByteText.Of(there.Bytes)}."
            : $"The first trip of {swap.OldTag} broke off. What it had brought can be restored; nothing says how it must be, so the "
                + "restore names it, to be looked at.");
        foreach (var snag in open)
        {
            (snag.End, snag.EndedBy, snag.EndReason, snag.EndedAt) = ("waived", w.By, waived, w.Now);
            w.Note("snag.waived", swap.Id, $"{names.Of(swap.Id, snag.Path)} is lost with {where}", new() { ["snag"] = snag.Id });
        }
        if (open.Count > 0)
        {
            _lines.Add(
                $"Lost with {where}, and named in the report: {ByteText.Files(open.Sum(n => n.Files))}, "
                    + $"{ByteText.Of(open.Sum(n => n.Bytes))}.");
            _lines.AddRange(open.Take(MostNamed).Select(n => $"{names.Of(swap.Id, n.Path)}: {n.Reason}"));
            if (open.Count > MostNamed) _lines.Add($"… and {open.Count - MostNamed} more, in the list of snags.");
        }
        _lines.Add(
            (swap.TripAt is { } ended
                ? $"What was made or changed on {where} after {When(ended)} was seen by no trip that ended"
                    + (open.Count > 0 ? " but for these" : "")
                : $"What that trip had not brought is lost with {where}, and no list says what it is")
                + $": ask {swap.Name}.");
        if (swap.Trips > 0 && !(swap.VerifiedWhole && swap.VerifiedAt >= swap.TripAt))
            _lines.Add("The parcel was not verified since that trip: verify it before it is restored.");
    }

    private async Task NothingCarriedAsync(CancellationToken cancel)
    {
        swap.OldDiedAt = w.Now;
        var survey = KeptInventory.Of(await w.Db.Cargo.AsNoTracking().FirstOrDefaultAsync(c => c.Swap == swap.Id, cancel));
        _lines.Add(
            $"Nothing was carried from {swap.OldTag}: all of its files are missing"
                + (survey is { } found
                    ? $", {ByteText.Files(found.Total.Files)}, {ByteText.Of(found.Total.Bytes)} at the survey of {When(found.At)}."
                    : ", and no survey says how many.")
                + (swap.Kind == SwapKind.Leave
                    ? " Nobody receives any of it unless another copy is found."
                    : $" Look for another copy and adopt it, or decide with {swap.Name} that nothing is restored."));
    }

    private Task TellOfLossAsync(CancellationToken cancel) => FollowUpAsync(
        swap.TripAt is { } known
            ? $"Tell {swap.Name} what is missing since {When(known)}, and ask where else it may be."
            : SwapFacts.HasParcel(swap)
            ? $"Tell {swap.Name} that only what a broken-off trip had brought is there, and ask where else the rest may be."
            : $"Tell {swap.Name} that nothing was carried from {swap.OldTag}, and ask where else their files may be.",
        FollowUpHold.SignOff,
        cancel);

    /// <summary>What waits for the computer to be handed in waits no more.</summary>
    private async Task LeaveHandInAsync(CancellationToken cancel)
    {
        var facts = await ChecklistFacts.ReadAsync(w.Db, swap, cancel);
        var open = facts.Steps
            .Where(s => s.Step.Phase == Phase.HandIn && s.State.IsOpen && s.Step.Work is not StepWork.Automatic)
            .Select(s => s.Step).ToList();
        foreach (var step in open)
        {
            await w.Db.Steps.Where(s => s.Swap == swap.Id && s.Key == step.Key).ExecuteDeleteAsync(cancel);
            w.Db.Steps.Add(
                ChecklistFacts.RowOf(swap.Id, step.Key, new StepState.NotApplicable(w.By, w.Now, HandInOfMissing), w.Now)!);
            if (step.Marks is { } station) SwapFacts.Reach(swap, station, w.Now);
            w.Note(
                "step.not-applicable",
                swap.Id,
                $"{w.By}: {step.Title} does not apply: {HandInOfMissing}",
                new() { ["step"] = step.Key });
        }
        if (open.Count > 0) _lines.Add($"Does not apply any more: {string.Join("; ", open.Select(s => s.Title))}.");
    }

    /// <summary>Whoever has the computer gets nothing more of ours: its hand, the links and the sessions of its person end.</summary>
    private async Task ShutOutAsync(string tag, CancellationToken cancel)
    {
        var (hands, codes) = await HandEnding.WithdrawAsync(w, ended, tag, cancel);
        if (hands.Count > 0) _lines.Add($"The hand at {tag} counts no more: whoever has it gets no order and nothing that opens a depot.");
        else if (codes > 0) _lines.Add($"The codes for {tag} count no more.");
        var links = await w.Db.Links.Where(l => l.Swap == swap.Id && l.WithdrawnAt == null && l.Expires > w.Now).ToListAsync(cancel);
        foreach (var link in links) link.WithdrawnAt = w.Now;
        if (links.Count > 0)
            w.Note("person.links-withdrawn", swap.Id, $"{w.By} withdrew the personal links of {swap.Name}");
        var sessions = 0;
        var accounts = await w.Db.Accounts.AsNoTracking()
            .Where(a => a.Role == Roles.Person && a.Person == swap.Person)
            .ToListAsync(cancel);
        foreach (var person in accounts.Where(a => a.Refreshes.Contains(swap.Refresh)))
            sessions += await Sessions.EndAllAsync(w.Db, ended, person.Name, null, cancel);
        if (links.Count + sessions > 0)
            _lines.Add($"The page of {swap.Name} is shut wherever it is open; send them a new link.");
    }

    /// <summary>Names of the depots that the hand at a computer could open with what it was given.</summary>
    private async Task<List<string>> OpenedDepotsAsync(string tag, CancellationToken cancel)
    {
        var hands = w.Db.Hands.Where(h => h.Refresh == swap.Refresh && h.Tag == tag).Select(h => h.Id);
        var depots = w.Db.Swaps.Where(s => w.Db.Orders.Any(o => o.Swap == s.Id && hands.Contains(o.Hand!))).Select(s => s.Depot);
        return await w.Db.Depots.Where(d => d.Refresh == swap.Refresh && d.Access != null && depots.Contains(d.Key))
            .OrderBy(d => d.Key)
            .Select(d => d.Name)
            .ToListAsync(cancel);
    }

    private async Task<Result<string>> FoundAsync(DetourTold told, CancellationToken cancel)
    {
        var tag = swap.OldTag!;
        if (await OldComputerDesk.AddAsync(
            w, swap, new(Guid.CreateVersion7(w.Now).ToString(), CustodyAct.Found, told.Where!, w.By, w.Now, w.Now), cancel) is { } refused)
            return refused;
        var words = $"{tag} of {swap.Name} was found, and is at {told.Where}{Because(told.Reason)}";
        await HandInAgainAsync(cancel);
        await AsBeforeAsync(cancel);
        _lines.Add($"Its hand ended when it was missing: enrol it anew once it is known who had {tag}.");
        await FollowUpAsync(
            $"Look who had {tag} while it was missing, whether its files are as they were, and take back what was told to others.",
            FollowUpHold.Wipe,
            cancel);
        return words;
    }

    /// <summary>Where nothing was restored yet, all goes on as if it had never been missing.</summary>
    private async Task AsBeforeAsync(CancellationToken cancel)
    {
        if (swap.KindBefore is not { } kind) return;
        if (swap.RestoreAt is not null || swap.RestoreSkippedAt is not null || swap.RestoredAt is not null)
        {
            swap.KindBefore = null;
            _lines.Add("It goes on as a rescue, since files were restored or given up already; what is on the old computer only is not "
                + "carried by it. Its wipe waits until somebody has looked.");
            return;
        }
        var facts = await ChecklistFacts.ReadAsync(w.Db, swap, cancel);
        (swap.OldDiedAt, swap.RescuedFrom) = (null, null);
        var lost = await w.Db.Snags
            .Where(n => n.Swap == swap.Id && n.End == "waived" && n.EndReason == WaivedAsMissing)
            .ToListAsync(cancel);
        foreach (var snag in lost)
        {
            (snag.End, snag.EndedBy, snag.EndReason, snag.EndedAt) = ("open", null, null, null);
            w.Note("snag.reopened", swap.Id, "A file that was lost with the old computer may be there again", new() { ["snag"] = snag.Id });
        }
        if (lost.Count > 0) _lines.Add($"Snags that are open again: {lost.Count}.");
        (swap.Kind, swap.KindBefore) = (kind, null);
        if (kind == SwapKind.Reimage)
        {
            await ToSpareAsync(null, cancel);
            (swap.NewTag, swap.NewModel, swap.Prepared) = (swap.OldTag, swap.OldModel, false);
        }
        await KindMove.ToKindAsync(w, swap, facts, cancel);
        SwapFacts.Settle(swap);
        _lines.Add("The swap goes on as it was planned, with another trip from the old computer.");
    }

    private async Task HandInAgainAsync(CancellationToken cancel)
    {
        var rows = await w.Db.Steps
            .Where(s => s.Swap == swap.Id && s.State == "not-applicable" && s.Reason == HandInOfMissing)
            .ToListAsync(cancel);
        if (rows.Count == 0) return;
        var facts = await ChecklistFacts.ReadAsync(w.Db, swap, cancel);
        foreach (var row in rows)
        {
            w.Db.Steps.Remove(row);
            if (facts.Template.Steps.FirstOrDefault(s => s.Key == row.Key) is not { } step) continue;
            if (step.Marks is { } station) SwapFacts.Reach(swap, station, null);
            _lines.Add($"To be done again: {step.Title}.");
        }
    }
}
