using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ids;
using YardRelay.Core.Ledger;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Checklists;
using YardRelay.Service.Clocks;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Refreshes;

/// <summary>The work behind <see cref="RefreshEndpoints"/>.</summary>
internal static class RefreshHandlers
{
    private const int MostName = 200;

    // Far enough for everybody, and a calendar ends.
    private const int FirstYear = 2000;
    private const int LastYear = 2200;

    internal static async Task<Ok<List<RefreshSeen>>> ListAsync(ClaimsPrincipal user, YardDb db, CancellationToken cancel)
    {
        var own = user.RefreshesOf();
        var rows = own.Count == 0 ? db.Refreshes : db.Refreshes.Where(r => own.Contains(r.Key));
        return TypedResults.Ok(await Seen(db, rows.OrderBy(r => r.Starts).ThenBy(r => r.Key).Take(1000)).ToListAsync(cancel));
    }

    private static IQueryable<RefreshSeen> Seen(YardDb db, IQueryable<RefreshRow> rows) => rows.AsNoTracking()
        .Select(r => new RefreshSeen(
            r.Key,
            r.Name,
            r.Zone,
            r.Starts,
            r.Days,
            db.Swaps.LongCount(s => s.Refresh == r.Key),
            r.LedgerNumber + ":" + r.LedgerSha256,
            r.OldHoldDays,
            r.AsksSecond));

    internal static async Task<Results<Ok<RefreshSeen>, ProblemHttpResult>> GetAsync(
        RefreshKey refresh, YardDb db, CancellationToken cancel) =>
        await Seen(db, db.Refreshes.Where(r => r.Key == refresh)).FirstOrDefaultAsync(cancel) is { } seen
            ? TypedResults.Ok(seen)
            : ServiceProblem.NotFound("refresh", refresh).ToHttp();

    internal static async Task<Results<Ok<RefreshSeen>, ProblemHttpResult>> MakeAsync(
        NewRefresh wanted, Writer writer, CancellationToken cancel)
    {
        var faults = Faults(new(wanted.Name, wanted.Zone, wanted.Starts, wanted.Days));
        if (!IsKey(wanted.Key))
            faults.Insert(0, new RefreshKeyProblem(wanted.Key));
        if (faults.Count > 0) return faults.ToHttp();
        RefreshRow Row() =>
            new()
            {
                Key = wanted.Key,
                Name = wanted.Name,
                Zone = wanted.Zone,
                Starts = wanted.Starts,
                Days = wanted.Days,
                LedgerNumber = 0,
                LedgerSha256 = LedgerHead.Empty.Sha256
            };
        var made = await writer.WriteNewAsync<RefreshSeen>(wanted.Key, Row, async w =>
        {
            if (w.Refresh.LedgerNumber > 0)
            {
                var there = await Seen(w.Db, w.Db.Refreshes.Where(r => r.Key == wanted.Key)).FirstAsync(cancel);
                return there.Name == wanted.Name && there.Zone == wanted.Zone && there.Starts == wanted.Starts && there.Days == wanted.Days
                    ? there
                    : new RefreshTakenProblem(wanted.Key);
            }
            w.Note("refresh.made", null, $"Refresh {wanted.Name} made");
            foreach (var yaml in BuiltInTemplates.Yaml) await TemplateStore.AddAsync(w, yaml, cancel);
            return new RefreshSeen(
                wanted.Key,
                wanted.Name,
                wanted.Zone,
                wanted.Starts,
                wanted.Days,
                0,
                $"{w.Refresh.LedgerNumber}:{w.Refresh.LedgerSha256}",
                w.Refresh.OldHoldDays);
        }, cancel);
        return made.ToHttp();
    }

    private static List<Problem> Faults(RefreshWanted wanted)
    {
        var faults = new List<Problem>();
        // Names of another system are found here, too, and by no browser.
        if (!TimeZoneInfo.TryFindSystemTimeZoneById(wanted.Zone, out var zone) || !zone.HasIanaId || zone.Id != wanted.Zone)
            faults.Add(new RefreshZoneProblem(wanted.Zone));
        if (wanted.Days is < 1 or > 366) faults.Add(new RefreshDaysProblem(wanted.Days));
        if (wanted.Starts.Year is < FirstYear or > LastYear) faults.Add(new RefreshStartsProblem(wanted.Starts));
        if (wanted.Name.Trim().Length is 0 or > MostName || !Visible.IsPlain(wanted.Name)) faults.Add(new RefreshNameProblem(MostName));
        return faults;
    }

    internal static async Task<Results<Ok<RefreshSeen>, ProblemHttpResult>> ChangeAsync(
        RefreshKey refresh, RefreshWanted wanted, Writer writer, RefreshZones zones, CancellationToken cancel)
    {
        if (Faults(wanted) is { Count: > 0 } faults) return faults.ToHttp();
        wanted = wanted with { Name = wanted.Name.Trim() };
        var done = await writer.WriteAsync<RefreshSeen>(refresh, async w =>
        {
            var row = w.Refresh;
            if ((row.Zone != wanted.Zone || row.Starts != wanted.Starts) && await w.Db.Plans.AnyAsync(p => p.Refresh == refresh, cancel))
                return new RefreshFixedProblem(row.Zone != wanted.Zone ? "The time zone" : "The first day");
            if (await w.Db.Swaps.Where(s => s.Refresh == refresh).MaxAsync(s => s.Start, cancel) is { } latest
                && new RefreshClock(row).DayOf(latest) is var last
                && last.DayNumber - wanted.Starts.DayNumber + 1 is var least
                && wanted.Days < least && wanted.Days < row.Days)
                return new RefreshTooShortProblem(last, least);
            List<string> changes =
            [
                .. Change("name", row.Name, wanted.Name),
                .. Change("zone", row.Zone, wanted.Zone),
                .. Change("first day", $"{row.Starts:yyyy-MM-dd}", $"{wanted.Starts:yyyy-MM-dd}"),
                .. Change("days", $"{row.Days}", $"{wanted.Days}"),
            ];
            if (changes.Count > 0)
            {
                w.Note("refresh.changed", null, $"Refresh: {string.Join("; ", changes)}");
                w.WorldChanged();
            }
            (row.Name, row.Zone, row.Starts, row.Days) = (wanted.Name, wanted.Zone, wanted.Starts, wanted.Days);
            await w.Db.SaveChangesAsync(cancel);
            return await Seen(w.Db, w.Db.Refreshes.Where(r => r.Key == refresh)).FirstAsync(cancel);
        }, cancel);
        zones.Forget();
        return done.ToHttp();
    }

    private static IEnumerable<string> Change(string what, string was, string isNow) =>
        was == isNow ? [] : [$"{what} {isNow}, {was} before"];

    internal static async Task<Results<Ok<RefreshSeen>, ProblemHttpResult>> HoldAsync(
        RefreshKey refresh, OldHoldWanted wanted, Writer writer, CancellationToken cancel)
    {
        if (wanted.Days is < 0 or > 366)
            return new RefreshHoldProblem(wanted.Days).ToHttp();
        return (await writer.WriteAsync<RefreshSeen>(refresh, async w =>
        {
            if (w.Refresh.OldHoldDays != wanted.Days)
                w.Note(
                    "refresh.old-hold",
                    null,
                    $"{w.By}: old computers are held {wanted.Days} days, {w.Refresh.OldHoldDays} before",
                    new() { ["days"] = wanted.Days });
            w.Refresh.OldHoldDays = wanted.Days;
            await w.Db.SaveChangesAsync(cancel);
            return await Seen(w.Db, w.Db.Refreshes.Where(r => r.Key == refresh)).FirstAsync(cancel);
        }, cancel)).ToHttp();
    }

    internal static async Task<Results<Ok<RefreshSeen>, ProblemHttpResult>> AskSecondAsync(
        RefreshKey refresh, SecondAsk wanted, ClaimsPrincipal user, Writer writer, SecondAsked asked, CancellationToken cancel)
    {
        if (wanted.Asked && !user.IsSecond()) return new SecondOwnProblem().ToHttp();
        var done = await writer.WriteAsync<RefreshSeen>(refresh, async w =>
        {
            if (w.Refresh.AsksSecond != wanted.Asked)
                w.Note(
                    "refresh.second",
                    null,
                    $"{w.By}: whoever works here {(wanted.Asked ? "shows a passkey, too" : "needs no passkey any more")}",
                    new() { ["asked"] = wanted.Asked });
            w.Refresh.AsksSecond = wanted.Asked;
            await w.Db.SaveChangesAsync(cancel);
            return await Seen(w.Db, w.Db.Refreshes.Where(r => r.Key == refresh)).FirstAsync(cancel);
        }, cancel);
        asked.Forget();
        return done.ToHttp();
    }

    public static bool IsKey(string key) =>
        key.Length is > 0 and <= 40 && key.All(c => char.IsAsciiLetterLower(c) || char.IsAsciiDigit(c) || c == '-');
}
