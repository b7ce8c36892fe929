using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.Clocks;

namespace YardRelay.Service.Privacy;

/// <summary>All swaps of one person, and what the records hold about them.</summary>
internal sealed class PersonRecords
{
    private PersonRecords(RefreshRow refresh, PersonRow person, IReadOnlyList<SwapRow> swaps) =>
        (Refresh, Person, Swaps) = (refresh, person, swaps);

    public RefreshRow Refresh { get; }

    public PersonRow Person { get; }

    public IReadOnlyList<SwapRow> Swaps { get; }

    public List<string> Ids => [.. Swaps.Select(s => s.Id)];

    /// <summary>Of the person of a swap; null: there is no such swap.</summary>
    public static async Task<PersonRecords?> OfSwapAsync(YardDb db, string swap, CancellationToken cancel) =>
        await db.Swaps.AsNoTracking().FirstOrDefaultAsync(s => s.Id == swap, cancel) is { } row
            ? await OfAsync(db, await db.Refreshes.FirstAsync(r => r.Key == row.Refresh, cancel), row.Person, cancel)
            : null;

    public static async Task<PersonRecords?> OfAsync(YardDb db, RefreshRow refresh, string person, CancellationToken cancel) =>
        await db.People.FirstOrDefaultAsync(p => p.Refresh == refresh.Key && p.Key == person, cancel) is { } row
            ? new(
                refresh,
                row,
                await db.Swaps.Where(s => s.Refresh == refresh.Key && s.Person == person).OrderBy(s => s.Id).ToListAsync(cancel))
            : null;

    /// <summary>What is kept, and whether it may go.</summary>
    public async Task<KeptSeen> SeenAsync(YardDb db, CancellationToken cancel)
    {
        var (ids, parts) = (Ids, new List<KeptPart>());
        void Add(string kind, long count)
        {
            if (count > 0) parts.Add(new(kind, count));
        }

        if (Person.ErasedAt is null)
        {
            Add("person", 1);
            Add("appointments", Swaps.Count(s => s.Start is not null));
            Add("computers", Swaps.SelectMany(s => new[] { s.OldTag, s.NewTag }).OfType<string>().Distinct().Count());
            Add("inventory", await db.Cargo.CountAsync(c => ids.Contains(c.Swap), cancel));
            Add("folders", await db.Folders.CountAsync(f => ids.Contains(f.Swap), cancel));
            Add("snags", await db.Snags.CountAsync(n => ids.Contains(n.Swap), cancel));
            Add("steps", await db.Steps.CountAsync(s => ids.Contains(s.Swap), cancel));
            Add("photos", await db.Photos.CountAsync(p => ids.Contains(p.Swap), cancel));
            Add("sign-offs", await db.SignOffs.CountAsync(s => ids.Contains(s.Swap), cancel));
            Add(
                "words",
                await db.FollowUps.CountAsync(f => ids.Contains(f.Swap), cancel)
                    + await db.Handovers.CountAsync(h => ids.Contains(h.Swap), cancel)
                    + await db.Detours.CountAsync(d => ids.Contains(d.Swap), cancel));
            Add("notices", await db.Notices.CountAsync(n => ids.Contains(n.Swap), cancel));
            Add("links", await db.Links.CountAsync(l => ids.Contains(l.Swap), cancel));
            Add("history", await db.Ledger.CountAsync(l => l.Refresh == Refresh.Key && ids.Contains(l.Swap!), cancel));
        }
        var (missing, closed) = await OpenAsync(db, cancel);
        return new(
            Person.Name,
            ids,
            parts,
            Person.ErasedAt is null && missing.Count == 0 && Refresh.KeepDays is { } days && closed is { } at
                ? new RefreshClock(Refresh).DayOf(at).AddDays(days)
                : null,
            Person.ErasedAt is null ? missing : [],
            Person.ErasedAt);
    }

    /// <summary>What still needs the person's data, and, where nothing does, since when.</summary>
    public async Task<(IReadOnlyList<string> Missing, DateTimeOffset? Closed)> OpenAsync(YardDb db, CancellationToken cancel)
    {
        var ids = Ids;
        var ends = await db.OldComputers.AsNoTracking().Where(c => ids.Contains(c.Swap)).ToListAsync(cancel);
        var (missing, closed) = (new List<string>(), (DateTimeOffset?)null);
        foreach (var swap in Swaps)
        {
            var old = ends.Find(c => c.Swap == swap.Id);
            if (swap.CalledOffAt is null && swap.AcceptedAt is null)
                missing.Add($"{swap.Id} is under way: nobody has accepted it, and it is not called off.");
            if (swap is { Trips: > 0, PurgedAt: null }) missing.Add($"The staged files of {swap.Id} are still held. Purge them first.");
            if (swap.CalledOffAt is null
                && swap.OldTag is { } tag
                && swap.Kind.HandsIn()
                && old is not { End: not null }
                && old is not { WipedAt: not null })
                missing.Add($"The old computer {tag} is neither wiped nor handed on.");
            foreach (var at in new[] { swap.AcceptedAt, swap.CalledOffAt, swap.PurgedAt, old?.WipedAt, old?.MovedAt })
                if (at > (closed ?? DateTimeOffset.MinValue)) closed = at;
        }
        if (await db.FollowUps.AnyAsync(f => ids.Contains(f.Swap) && f.DoneAt == null && f.Cause != "erasure", cancel))
            missing.Add("Follow-ups are open. Finish them first.");
        return (missing, closed);
    }
}
