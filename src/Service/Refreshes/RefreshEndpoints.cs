using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Checklists;
using YardRelay.Core.Ledger;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Checklists;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Refreshes;

/// <summary>Refreshes and their world: sites, technicians, depots.</summary>
internal static class RefreshEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/refreshes", ListAsync).RequireAuthorization(Roles.Reads).WithName("ListRefreshes").WithSummary("All refreshes.");
        routes.MapPost("/refreshes", MakeAsync).RequireAuthorization(Roles.Leads).WithName("MakeRefresh").WithSummary("Makes a refresh; the same again changes nothing.");
        routes.MapGet("/refreshes/{refresh}", GetAsync).RequireAuthorization(Roles.Reads).WithName("GetRefresh").WithSummary("One refresh.");
        routes.MapGet("/refreshes/{refresh}/sites", SitesAsync).RequireAuthorization(Roles.Reads).WithName("ListSites").WithSummary("Sites with their benches.");
        routes.MapPut("/refreshes/{refresh}/sites/{key}", PutSiteAsync).RequireAuthorization(Roles.Leads).WithName("PutSite").WithSummary("Makes or changes a site.");
        routes.MapGet("/refreshes/{refresh}/technicians", TechniciansAsync).RequireAuthorization(Roles.Reads).WithName("ListTechnicians").WithSummary("Technicians with sites and shifts.");
        routes.MapPut("/refreshes/{refresh}/technicians/{key}", PutTechnicianAsync).RequireAuthorization(Roles.Leads).WithName("PutTechnician").WithSummary("Makes or changes a technician.");
        routes.MapGet("/refreshes/{refresh}/depots", DepotsAsync).RequireAuthorization(Roles.Reads).WithName("ListDepots").WithSummary("Depots and what lies in them.");
        routes.MapPut("/refreshes/{refresh}/depots/{key}", PutDepotAsync).RequireAuthorization(Roles.Leads).WithName("PutDepot").WithSummary("Makes or changes a depot.");
    }

    private static async Task<Ok<List<RefreshSeen>>> ListAsync(YardDb db, CancellationToken cancel) => TypedResults.Ok(await Seen(db, db.Refreshes.OrderBy(r => r.Starts).ThenBy(r => r.Key).Take(1000)).ToListAsync(cancel));

    private static IQueryable<RefreshSeen> Seen(YardDb db, IQueryable<RefreshRow> rows) => rows.AsNoTracking()
        .Select(r => new RefreshSeen(r.Key, r.Name, r.Zone, r.Starts, r.Days, db.Swaps.LongCount(s => s.Refresh == r.Key), r.LedgerNumber + ":" + r.LedgerSha256));

    private static async Task<Results<Ok<RefreshSeen>, ProblemHttpResult>> GetAsync(string refresh, YardDb db, CancellationToken cancel) =>
        await Seen(db, db.Refreshes.Where(r => r.Key == refresh)).FirstOrDefaultAsync(cancel) is { } seen ? TypedResults.Ok(seen) : new Problem[] { ServiceProblem.NotFound("refresh", refresh) }.ToHttp();

    private static async Task<Results<Ok<RefreshSeen>, ProblemHttpResult>> MakeAsync(NewRefresh wanted, Writer writer, CancellationToken cancel)
    {
        var faults = new List<Problem>();
        if (!IsKey(wanted.Key)) faults.Add(new("refresh.key", $"The key '{wanted.Key}' must have 1 to 40 lower-case letters, digits and '-'."));
        if (!TimeZoneInfo.TryFindSystemTimeZoneById(wanted.Zone, out _)) faults.Add(new("refresh.zone", $"'{wanted.Zone}' is not a time zone. Use an IANA name such as Europe/Berlin."));
        if (wanted.Days is < 1 or > 366) faults.Add(new("refresh.days", $"A refresh has 1 to 366 days, not {wanted.Days}."));
        if (string.IsNullOrWhiteSpace(wanted.Name)) faults.Add(new("refresh.name", "A refresh needs a name."));
        if (faults.Count > 0) return faults.ToHttp();
        RefreshRow Row() => new() { Key = wanted.Key, Name = wanted.Name, Zone = wanted.Zone, Starts = wanted.Starts, Days = wanted.Days, LedgerNumber = 0, LedgerSha256 = LedgerHead.Empty.Sha256 };
        var made = await writer.WriteNewAsync<RefreshSeen>(wanted.Key, Row, async w =>
        {
            if (w.Refresh.LedgerNumber > 0)
            {
                var there = await Seen(w.Db, w.Db.Refreshes.Where(r => r.Key == wanted.Key)).FirstAsync(cancel);
                return there.Name == wanted.Name && there.Zone == wanted.Zone && there.Starts == wanted.Starts && there.Days == wanted.Days ? there
                    : ServiceProblem.Conflict("refresh.taken", $"There is another refresh '{wanted.Key}' already. Choose another key.");
            }
            w.Note("refresh.made", null, $"Refresh {wanted.Name} made");
            await TemplateStore.AddAsync(w, BuiltInTemplate.Yaml, cancel);
            return new RefreshSeen(wanted.Key, wanted.Name, wanted.Zone, wanted.Starts, wanted.Days, 0, $"{w.Refresh.LedgerNumber}:{w.Refresh.LedgerSha256}");
        }, cancel);
        return made.ToHttp();
    }

    public static bool IsKey(string key) => key.Length is > 0 and <= 40 && key.All(c => char.IsAsciiLetterLower(c) || char.IsAsciiDigit(c) || c == '-');

    private static async Task<Ok<List<SiteSeen>>> SitesAsync(string refresh, YardDb db, CancellationToken cancel) =>
        TypedResults.Ok(await db.Sites.AsNoTracking().Where(s => s.Refresh == refresh).OrderBy(s => s.Key).Select(s => new SiteSeen(s.Key, s.Name, s.Benches)).ToListAsync(cancel));

    private static async Task<Results<Ok<SiteSeen>, ProblemHttpResult>> PutSiteAsync(string refresh, string key, SiteWanted wanted, Writer writer, CancellationToken cancel)
    {
        if (wanted.Benches is < 0 or > 1000) return new Problem[] { new("site.benches", $"A site has 0 to 1000 benches, not {wanted.Benches}.") }.ToHttp();
        return (await writer.WriteAsync<SiteSeen>(refresh, async w =>
        {
            var row = await w.Db.Sites.FirstOrDefaultAsync(s => s.Refresh == refresh && s.Key == key, cancel);
            if (row is null) w.Db.Sites.Add(row = new() { Refresh = refresh, Key = key, Name = wanted.Name });
            else if (row.Name == wanted.Name && row.Benches == wanted.Benches) return new SiteSeen(key, row.Name, row.Benches);
            (row.Name, row.Benches) = (wanted.Name, wanted.Benches);
            w.Note("site.set", null, $"Site {wanted.Name} has {wanted.Benches} benches");
            return new SiteSeen(key, row.Name, row.Benches);
        }, cancel)).ToHttp();
    }

    private static async Task<Ok<List<TechnicianSeen>>> TechniciansAsync(string refresh, YardDb db, CancellationToken cancel) =>
        TypedResults.Ok((await db.Technicians.AsNoTracking().Where(t => t.Refresh == refresh).OrderBy(t => t.Name).ToListAsync(cancel)).ConvertAll(t => new TechnicianSeen(t.Key, t.Name, t.Sites, t.Shifts)));

    private static async Task<Results<Ok<TechnicianSeen>, ProblemHttpResult>> PutTechnicianAsync(string refresh, string key, TechnicianWanted wanted, Writer writer, CancellationToken cancel)
    {
        foreach (var shift in wanted.Shifts)
            if (Shift.TryParse(shift) is null) return new Problem[] { new("technician.shift", $"'{shift}' is not a shift. Write 08:00-12:00 for Monday to Friday, or 'daily 08:00-12:00'.") }.ToHttp();
        return (await writer.WriteAsync<TechnicianSeen>(refresh, async w =>
        {
            var sites = await w.Db.Sites.Where(s => s.Refresh == refresh).Select(s => s.Key).ToListAsync(cancel);
            if (wanted.Sites.Except(sites).FirstOrDefault() is { } unknown) return new Problem("technician.site", $"Site '{unknown}' is not in refresh '{refresh}'. It has {(sites.Count == 0 ? "none yet" : string.Join(", ", sites))}.");
            var row = await w.Db.Technicians.FirstOrDefaultAsync(t => t.Refresh == refresh && t.Key == key, cancel);
            if (row is null) w.Db.Technicians.Add(row = new() { Refresh = refresh, Key = key, Name = wanted.Name, Sites = [], Shifts = [] });
            else if (row.Name == wanted.Name && row.Sites.SequenceEqual(wanted.Sites) && row.Shifts.SequenceEqual(wanted.Shifts)) return new TechnicianSeen(key, row.Name, row.Sites, row.Shifts);
            (row.Name, row.Sites, row.Shifts) = (wanted.Name, [.. wanted.Sites], [.. wanted.Shifts]);
            w.Note("technician.set", null, $"Technician {wanted.Name} serves {string.Join(", ", wanted.Sites)}, {string.Join(", ", wanted.Shifts)}");
            return new TechnicianSeen(key, row.Name, row.Sites, row.Shifts);
        }, cancel)).ToHttp();
    }

    private static async Task<Ok<List<DepotSeen>>> DepotsAsync(string refresh, YardDb db, CancellationToken cancel) =>
        TypedResults.Ok(await db.Depots.AsNoTracking().Where(d => d.Refresh == refresh).OrderBy(d => d.Key).Select(d => new DepotSeen(
            d.Key, d.Name, d.Address, db.Swaps.LongCount(s => s.Refresh == refresh && s.Depot == d.Key && s.Trips > 0),
            db.Folders.Where(f => db.Swaps.Any(s => s.Id == f.Swap && s.Refresh == refresh && s.Depot == d.Key)).Sum(f => (long?)f.DepotBytes) ?? 0)).ToListAsync(cancel));

    private static async Task<Results<Ok<DepotSeen>, ProblemHttpResult>> PutDepotAsync(string refresh, string key, DepotWanted wanted, Writer writer, CancellationToken cancel)
    {
        if (!Uri.TryCreate(wanted.Address, UriKind.Absolute, out var uri) || uri.Scheme is not ("file" or "http" or "https")) return new Problem[] { new("depot.address", $"'{wanted.Address}' is not an address of a depot. Use file:///path or http(s)://host/path.") }.ToHttp();
        if (uri.UserInfo.Length > 0) return new Problem[] { new("depot.address", "An address holds no password; hands take it from YARD_DEPOT_USER and YARD_DEPOT_PASSWORD.") }.ToHttp();
        return (await writer.WriteAsync<DepotSeen>(refresh, async w =>
        {
            var row = await w.Db.Depots.FirstOrDefaultAsync(d => d.Refresh == refresh && d.Key == key, cancel);
            if (row is null) w.Db.Depots.Add(row = new() { Refresh = refresh, Key = key, Name = wanted.Name, Address = wanted.Address });
            else if (row.Name == wanted.Name && row.Address == wanted.Address) return new DepotSeen(key, row.Name, row.Address, 0, 0);
            (row.Name, row.Address) = (wanted.Name, wanted.Address);
            w.Note("depot.set", null, $"Depot {wanted.Name} is {wanted.Address}");
            return new DepotSeen(key, row.Name, row.Address, 0, 0);
        }, cancel)).ToHttp();
    }
}

/// <summary>A daily shift in local time.</summary>
internal readonly record struct Shift(TimeOnly From, TimeOnly Until, bool Daily)
{
    private const string EveryDay = "daily ";

    /// <summary><c>08:00-12:00</c> on Monday to Friday, <c>daily 08:00-12:00</c> on every day.</summary>
    public static Shift? TryParse(string text)
    {
        var daily = text.StartsWith(EveryDay, StringComparison.Ordinal);
        if (daily) text = text[EveryDay.Length..];
        return text.Length == 11 && text[5] == '-' && TimeOnly.TryParseExact(text[..5], "HH:mm", out var from) && TimeOnly.TryParseExact(text[6..], "HH:mm", out var until) && from < until ? new(from, until, daily) : null;
    }
}
