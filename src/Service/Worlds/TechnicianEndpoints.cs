using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Planning.Worlds;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Worlds;

/// <summary>Technicians: skills, sites, shifts, absences.</summary>
internal static class TechnicianEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/refreshes/{refresh}/technicians", ListAsync).RequireAuthorization(Roles.Reads).WithName("ListTechnicians").WithSummary("Technicians with skills, sites, shifts and absences.");
        routes.MapPut("/refreshes/{refresh}/technicians/{key}", PutAsync).RequireAuthorization(Roles.Leads).WithName("PutTechnician").WithSummary("Makes or changes a technician.");
        routes.MapDelete("/refreshes/{refresh}/technicians/{key}", DropAsync).RequireAuthorization(Roles.Leads).WithName("DropTechnician").WithSummary("Takes a technician out; what they were booked for is planned anew.");
    }

    public static TechnicianSeen Seen(TechnicianRow t) => new(t.Key, t.Name, t.Sites, t.Shifts, t.Skills, t.Absences);

    private static async Task<Ok<List<TechnicianSeen>>> ListAsync(string refresh, YardDb db, CancellationToken cancel) =>
        TypedResults.Ok((await db.Technicians.AsNoTracking().Where(t => t.Refresh == refresh).OrderBy(t => t.Name).ToListAsync(cancel)).ConvertAll(Seen));

    private static async Task<Results<Ok<TechnicianSeen>, ProblemHttpResult>> PutAsync(string refresh, string key, TechnicianWanted wanted, Writer writer, CancellationToken cancel)
    {
        var shifts = ShiftRule.ParseAll(wanted.Name, wanted.Shifts);
        var absences = (wanted.Absences ?? []).Select(LocalSpan.Parse).ToList();
        List<Problem> faults = [.. WorldWrite.Faults(WorldWrite.KeyFault("technician", key), WorldWrite.NameFault("technician", wanted.Name)), .. shifts.Problems, .. absences.SelectMany(a => a.Problems).Select(p => p with { Code = "technician.absence" })];
        if (faults.Count > 0) return faults.ToHttp();
        return (await writer.WriteAsync<TechnicianSeen>(refresh, async w =>
        {
            var sites = await w.Db.Sites.Where(s => s.Refresh == refresh).Select(s => s.Key).ToListAsync(cancel);
            if (wanted.Sites.Except(sites).FirstOrDefault() is { } unknown) return new Problem("technician.site", $"Site '{unknown}' is not in refresh '{refresh}'. It has {(sites.Count == 0 ? "none yet" : string.Join(", ", sites))}.");
            return await w.SetAsync(
                "technician", w.Db.Technicians.FirstOrDefaultAsync(t => t.Refresh == refresh && t.Key == key, cancel), () => new TechnicianRow { Refresh = refresh, Key = key, Name = wanted.Name, Sites = [], Shifts = [] },
                row => (row.Name, row.Sites, row.Shifts, row.Skills, row.Absences) = (wanted.Name, [.. wanted.Sites], [.. shifts.Value.Select(s => s.Text)], [.. (wanted.Skills ?? []).Select(s => s.Trim()).Where(s => s.Length > 0).Distinct()], [.. absences.Select(a => a.Value.ToString())]), Seen,
                t => $"Technician {t.Name} serves {string.Join(", ", t.Sites)}, {string.Join(", ", t.Shifts)}{(t.Skills.Count > 0 ? $", knows {string.Join(", ", t.Skills)}" : "")}{(t.Absences.Count > 0 ? $", away {string.Join("; ", t.Absences)}" : "")}");
        }, cancel)).ToHttp();
    }

    private static Task<Results<NoContent, ProblemHttpResult>> DropAsync(string refresh, string key, Writer writer, CancellationToken cancel) =>
        writer.DropAsync(refresh, "technician", w => w.Db.Technicians.FirstOrDefaultAsync(t => t.Refresh == refresh && t.Key == key, cancel), t => t.Name, cancel);
}
