using Microsoft.EntityFrameworkCore;
using YardRelay.Records;
using YardRelay.Service.Clocks;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Privacy;

/// <summary>Erases what is kept about people once the days that the refresh keeps it are over.</summary>
internal sealed class ErasureLook(IDbContextFactory<YardDb> records, Writer writer, TimeProvider time, ILogger<ErasureLook> log)
    : RegularLook(TimeSpan.FromHours(1), time, log)
{
    protected override string What => "What is kept about people";

    /// <summary>One look at all refreshes that keep what they know for so many days.</summary>
    public override async Task RoundAsync(CancellationToken cancel)
    {
        await using var db = await records.CreateDbContextAsync(cancel);
        var now = Time.GetUtcNow();
        foreach (var refresh in await db.Refreshes.AsNoTracking().Where(r => r.KeepDays != null).ToListAsync(cancel))
        {
            var today = new RefreshClock(refresh).DayOf(now);
            var before = now.AddDays(-refresh.KeepDays!.Value);
            // Only whose swaps all ended long enough ago is looked at closely.
            var people = await db.People.AsNoTracking().Where(p => p.Refresh == refresh.Key && p.ErasedAt == null
                && !db.Swaps.Any(s =>
                    s.Refresh == p.Refresh
                        && s.Person == p.Key
                        && ((s.AcceptedAt == null || s.AcceptedAt > before) && (s.CalledOffAt == null || s.CalledOffAt > before)))
                && db.Swaps.Any(s => s.Refresh == p.Refresh && s.Person == p.Key)).Select(p => p.Key).ToListAsync(cancel);
            foreach (var key in people)
            {
                await using var look = await records.CreateDbContextAsync(cancel);
                if (await PersonRecords.OfAsync(look, refresh, key, cancel) is not { } person
                    || (await person.SeenAsync(look, cancel)).ErasesOn is not { } day
                    || day > today)
                    continue;
                await writer.WriteAsync<string>(
                    refresh.Key,
                    w => Erasure.EraseAsync(w, person.Swaps[0].Id, $"the {refresh.KeepDays} days for which it is kept are over.", cancel),
                    cancel,
                    "the system");
            }
        }
        if (await UnusedBytes.SettleAsync(db, cancel) is { } why)
            Log.LogWarning("What was erased may lie in unused bytes of the database file ({Why}); tried again in an hour", why);
    }
}
