using System.Globalization;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Checklists;
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
using YardRelay.Service.Orders;
using YardRelay.Service.Planning;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Detours;

/// <summary>New computers: another than planned came, or a dead one.</summary>
internal sealed partial class DetourWork
{
    private async Task<Result<string>> WrongComputerAsync(DetourTold told, CancellationToken cancel)
    {
        var tag = told.Tag!;
        if (Same(tag, swap.NewTag)) return new IsThePlannedOne(swap.NewTag);
        var others = await w.Db.Swaps.Where(s => s.Refresh == swap.Refresh && s.Id != swap.Id && (s.OldTag != null || s.NewTag != null))
            .Select(s => new { s.Id, s.Name, s.Site, s.OldTag, s.NewTag })
            .ToListAsync(cancel);
        if (Same(tag, swap.OldTag) || others.Exists(o => Same(tag, o.OldTag)))
            return new IsAnOldComputer(
                tag, others.Find(o => Same(tag, o.OldTag) && reaches(o.Site)) is { } whose ? $", of {whose.Name}" : "");
        var (planned, words) = (
            swap.NewTag, $"{tag} came for {swap.Name} instead of {swap.NewTag ?? "a computer that was named"}{Because(told.Reason)}");
        if (others.Find(o => Same(tag, o.NewTag)) is { } meant)
        {
            if (!reaches(meant.Site)) return new ExchangeAcrossSites(meant.NewTag, meant.Site);
            var other = await w.Db.Swaps.FirstAsync(s => s.Id == meant.Id, cancel);
            return await ExchangeAsync(other, told.Exchange == true, cancel) is { } refused ? refused : words;
        }
        var spare = await SpareAsync(tag, cancel);
        if (spare is not null && !reaches(spare.Site)) return new SpareAcrossSites(spare.Key, spare.Site);
        if (spare?.Trouble is { } trouble) return new DetourSpareProblem(spare.Key, trouble);
        if (planned is not null) await ToSpareAsync($"It was not delivered for {swap.Name}; look for it.", cancel);
        var named = spare?.Key ?? tag;
        if (spare is not null) w.Db.Spares.Remove(spare);
        await ReplaceAsync(swap, named, spare?.Model ?? (planned is null ? null : swap.NewModel), cancel);
        _lines.Insert(0, $"{swap.Name} gets {named}{(spare is null ? ", which nobody had listed" : ", which was a spare")}.");
        return words;
    }

    /// <summary>The new computers of two swaps change places.</summary>
    /// <returns>Why they do not; null: they have.</returns>
    private async Task<Problem?> ExchangeAsync(SwapRow other, bool isMeant, CancellationToken cancel)
    {
        if (!isMeant) return new DetourMeantForProblem(other.NewTag, other.Name, other.Site, swap.NewTag ?? "another");
        if (swap.NewTag is not { } planned) return new NothingToGiveForIt(swap.Name, other.Name);
        if (other.SwappedAt is not null || await w.Db.SignOffs.AnyAsync(s => s.Swap == other.Id, cancel))
            return new InUseElsewhere(other.NewTag, other.Name);
        var theirs = (Tag: other.NewTag, Model: other.NewModel);
        await ReplaceAsync(other, planned, swap.NewModel, cancel);
        await ReplaceAsync(swap, theirs.Tag!, theirs.Model, cancel);
        _lines.Insert(0, $"{swap.Name} gets {theirs.Tag}, {other.Name} gets {planned}.");
        other.ChecklistVersion++;
        w.Note(
            "swap.detour",
            other.Id,
            $"{other.Name} gets {planned} instead of {theirs.Tag}, which came for {swap.Name}",
            new() { ["detour"] = "Exchanged" });
        return null;
    }

    private async Task<Result<string>> DeadOnArrivalAsync(DetourTold told, CancellationToken cancel)
    {
        var (dead, model) = (swap.NewTag!, swap.NewModel);
        var all = await SparesAsync(cancel);
        var spare = told.Tag is { Length: > 0 } tag ? all.Find(s => Same(s.Key, tag)) : all.FirstOrDefault();
        if (spare is null)
            return told.Tag is { Length: > 0 } asked
                ? NoSuchSpare(asked, all)
                : new DetourNoSpareProblem("There is no spare computer. Add one, or say with 'wrong computer' which other one stands in.");
        await ToSpareAsync($"Dead on arrival at {swap.Name}: {told.Reason}", cancel);
        w.Db.Spares.Remove(spare);
        await ReplaceAsync(swap, spare.Key, spare.Model, cancel);
        var far = spare.Site == swap.Site
            ? 0
            : await w.Db.Ways.Where(v =>
                v.Refresh == swap.Refresh && ((v.From == spare.Site && v.To == swap.Site) || (v.From == swap.Site && v.To == spare.Site)))
                .Select(v => v.Minutes)
                .FirstOrDefaultAsync(cancel);
        _lines.Insert(
            0,
            $"{spare.Key}{(spare.Model is { } kind ? $" ({kind}{(kind == model ? "" : $", not {model ?? "the same model"}")})" : "")} "
                + $"takes its place; it lies at {spare.Site}"
                + $"{(spare.Site == swap.Site ? "" : far > 0 ? $", {far} min away" : ", another site")}.");
        await FollowUpAsync($"Send {dead} back to its maker. {told.Reason}", FollowUpHold.Nothing, cancel);
        return $"{dead} of {swap.Name} is dead on arrival: {told.Reason}";
    }

    /// <summary>Another computer takes the place of a swap's new one: what was done to the first is to be done again.</summary>
    private async Task ReplaceAsync(SwapRow of, string tag, string? model, CancellationToken cancel)
    {
        var facts = await ChecklistFacts.ReadAsync(w.Db, of, cancel);
        var again = facts.Steps.Where(s => s.Step.IsOnNew && s.Step.Work is not StepWork.Automatic && s.State is not StepState.Open)
            .Select(s => s.Step).ToList();
        var keys = again.ConvertAll(s => s.Key);
        await w.Db.Steps.Where(s => s.Swap == of.Id && keys.Contains(s.Key)).ExecuteDeleteAsync(cancel);
        foreach (var station in again.Select(s => s.Marks).OfType<Station>()) SwapFacts.Reach(of, station, null);
        if (again.Count > 0) _lines.Add($"To be done again on {tag}: {string.Join("; ", again.Select(s => s.Title))}.");
        if (of.NewTag is { } old && of == swap) await WithdrawAsync(o => o.Tag == old, cancel);
        if (of.RestoreAt is not null || of.RestoreSkippedAt is not null)
        {
            (of.RestoreAt, of.RestoreWhole, of.UrgentReadyAt, of.RestoredAt) = (null, false, null, null);
            await w.Db.Folders.Where(f => f.Swap == of.Id).ExecuteUpdateAsync(
                u => u.SetProperty(f => f.NewFiles, (long?)null).SetProperty(f => f.NewBytes, (long?)null), cancel);
            _lines.Add($"The files are to be restored to {tag}.");
        }
        (of.NewTag, of.NewModel, of.Prepared) = (tag, model ?? of.NewModel, false);
        SwapFacts.Settle(of);
    }

    /// <summary>Spares that can be given out: of the swap's model first, then those at its site.</summary>
    private async Task<List<SpareRow>> SparesAsync(CancellationToken cancel) =>
        [.. (await w.Db.Spares.Where(s => s.Refresh == swap.Refresh && s.Trouble == null).ToListAsync(cancel))
            .Where(s => reaches(s.Site))
            .OrderBy(s => s.Model == swap.NewModel ? 0 : 1)
            .ThenBy(s => s.Site == swap.Site ? 0 : 1)
            .ThenBy(s => s.Key, StringComparer.Ordinal)];

    private static DetourNoSpareProblem NoSuchSpare(string asked, List<SpareRow> all) => new(
        $"{asked} is no spare computer that can be given out. "
            + $"{(all.Count == 0 ? "There is none" : $"There are {string.Join(", ", all.Take(MostNamed).Select(s => s.Key))}")}.");

    private async Task<SpareRow?> SpareAsync(string tag, CancellationToken cancel) =>
        (await w.Db.Spares.Where(s => s.Refresh == swap.Refresh).ToListAsync(cancel)).Find(s => Same(s.Key, tag));

    /// <summary>The swap's new computer goes to the spares.</summary>
    private async Task ToSpareAsync(string? trouble, CancellationToken cancel)
    {
        if (swap.NewTag is not { } tag) return;
        if (await SpareAsync(tag, cancel) is { } known) known.Trouble = trouble;
        else w.Db.Spares.Add(new() { Refresh = swap.Refresh, Key = tag, Model = swap.NewModel, Site = swap.Site, Trouble = trouble });
        _lines.Add(trouble is null ? $"{tag} is a spare from now on." : $"{tag} is kept among the spares and not given out: {trouble}");
    }
}
