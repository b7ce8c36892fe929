using Microsoft.EntityFrameworkCore;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Facts;

/// <summary>Stations that follow from facts are brought up to them, within the change that brought the facts.</summary>
internal static class SwapSettling
{
    /// <summary>Brings the automatic stations up to the facts as they stand in this transaction.</summary>
    public static async Task SettleAsync(Change w, SwapRow swap, CancellationToken cancel)
    {
        await w.Db.SaveChangesAsync(cancel);
        var snags = await w.Db.Snags.AsNoTracking().Where(n => n.Swap == swap.Id).ToListAsync(cancel);
        var account = SwapFacts.Account(await w.Db.Folders.AsNoTracking().Where(f => f.Swap == swap.Id).ToListAsync(cancel), snags);
        var staged = SwapFacts.IsStaged(swap, account, snags);
        var restored = SwapFacts.IsRestored(swap, account, snags);
        if (staged && swap.StagedAt is null)
            w.Note(
                "swap.staged",
                swap.Id,
                $"{WhatOf(swap)} {swap.Name} are staged and verified: {account.Sum(f => f.InDepot.Files):#,0} files",
                new() { ["files"] = account.Sum(f => f.InDepot.Files) });
        if (restored && swap.RestoredAt is null)
            w.Note(
                "swap.restored",
                swap.Id,
                $"{WhatOf(swap)} {swap.Name} are on the new computer",
                new() { ["files"] = account.Sum(f => f.OnNew?.Files ?? 0) });
        if (staged != swap.StagedAt is not null || restored != swap.RestoredAt is not null) swap.ChecklistVersion++;
        SwapFacts.Reach(swap, Station.Staged, staged ? swap.StagedAt ?? w.Now : null);
        SwapFacts.Reach(swap, Station.Restored, restored ? swap.RestoredAt ?? w.Now : null);
    }

    // Who reads "all" must not be wrong.
    private static string WhatOf(SwapRow swap) => swap.OldDiedAt is null ? "All files of" : "The files that are left of";
}
