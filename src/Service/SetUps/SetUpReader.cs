using Microsoft.EntityFrameworkCore;
using YardRelay.Core.SetUps;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Depots;

namespace YardRelay.Service.SetUps;

/// <summary>Reads what a refresh's set-up is made from.</summary>
internal sealed class SetUpReader(YardDb db, ServiceOptions options)
{
    private static readonly SwapKind[] Staging = [.. Enum.GetValues<SwapKind>().Where(k => k.Stages())];

    public async Task<SetUpFacts> ReadAsync(RefreshRow refresh, CancellationToken cancel)
    {
        var key = refresh.Key;
        var swaps = db.Swaps.AsNoTracking().Where(s => s.Refresh == key && s.CalledOffAt == null);
        var sites = await db.Sites.AsNoTracking().Where(s => s.Refresh == key).OrderBy(s => s.Name).ToListAsync(cancel);
        var technicians = await db.Technicians.AsNoTracking().Where(t => t.Refresh == key).OrderBy(t => t.Name).ToListAsync(cancel);
        var needed = await swaps.Select(s => s.Site).Distinct().ToListAsync(cancel);
        var served = technicians.SelectMany(t => t.Sites).ToHashSet();
        // Who leads or works in this refresh; a person's account opens their own page only.
        var accounts = (await db.Accounts.AsNoTracking()
            .Where(a => a.Role != Roles.Person && a.DisabledAt == null)
            .Select(a => new { a.Name, a.Refreshes })
            .ToListAsync(cancel))
            .FindAll(a => a.Refreshes.Count == 0 || a.Refreshes.Contains(key));
        var carried = swaps.Where(s => Staging.Contains(s.Kind) && s.OldTag != null);
        var people = db.People.AsNoTracking().Where(p => p.Refresh == key && p.ErasedAt == null);
        return new(refresh.Zone, refresh.Starts, refresh.Days)
        {
            People = await swaps.Select(s => s.Person).Distinct().CountAsync(cancel),
            Swaps = await swaps.CountAsync(cancel),
            Sites = sites.ConvertAll(s => s.Name),
            Unserved = sites.FindAll(s => needed.Contains(s.Key) && !served.Contains(s.Key)).ConvertAll(s => s.Name),
            Technicians = technicians.Count,
            WithoutAccount = technicians.FindAll(t => !accounts.Exists(a => a.Name == t.Key)).ConvertAll(t => t.Name),
            Depots = (await db.Depots.AsNoTracking().Where(d => d.Refresh == key).OrderBy(d => d.Key).ToListAsync(cancel))
                .ConvertAll(d => new DepotFacts(d.Name, d.HeardAt is not null || d.Address == BuiltInDepot.Address, d.Trouble)),
            Computers = await carried.CountAsync(cancel),
            Hands = await carried.CountAsync(
                s => db.Hands.Any(h => h.Refresh == key && h.Tag == s.OldTag && h.ReplacedAt == null), cancel),
            Accounts = accounts.Count,
            CanSend = options.Mail is not null,
            Tells = refresh.NoticesSince is not null,
            WithoutMail = await people.CountAsync(p => p.Mail == null || p.Mail == "", cancel),
            Booked = await swaps.CountAsync(s => s.Start != null, cancel),
            HasDraft = await db.Plans.AnyAsync(p => p.Refresh == key && p.State == "draft", cancel),
        };
    }
}
