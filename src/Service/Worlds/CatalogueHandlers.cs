using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ids;
using YardRelay.Records;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Worlds;

/// <summary>The work behind <see cref="CatalogueEndpoints"/>.</summary>
internal static class CatalogueHandlers
{
    internal static async Task<Ok<List<CatalogueSeen>>> ListAsync(RefreshKey refresh, YardDb db, CancellationToken cancel) =>
        TypedResults.Ok((await db.Catalogue.AsNoTracking()
            .Where(c => c.Refresh == refresh)
            .OrderBy(c => c.Program)
            .ThenBy(c => c.Key)
            .ToListAsync(cancel))
            .ConvertAll(CatalogueReader.Seen));

    internal static async Task<Results<Ok<CatalogueSeen>, ProblemHttpResult>> PutAsync(
        RefreshKey refresh, string key, CatalogueWanted wanted, Writer writer, CancellationToken cancel)
    {
        var faults = WorldWrite.Faults(
            WorldWrite.KeyFault("catalogue line", key),
            WorldWrite.NameFault("program", wanted.Program),
            WorldWrite.NameFault("program to install", wanted.Offer),
            wanted.Where is { Length: > 300 } ? new CatalogueWhereProblem() : null,
            wanted.Program is { } name && name.Trim('*', ' ').Length == 0
                ? new CatalogueProgramProblem(name)
                : null);
        if (faults.Count > 0) return faults.ToHttp();
        return (await writer.WriteAsync<CatalogueSeen>(refresh,
            w => w.SetAsync("catalogue", w.Db.Catalogue.FirstOrDefaultAsync(c => c.Refresh == refresh && c.Key == key, cancel),
            () => new CatalogueRow { Refresh = refresh, Key = key, Program = "", Offer = "" },
            row => (row.Program, row.Offer, row.Where, row.IsLicenceBound) = (
                wanted.Program.Trim(),
                wanted.Offer.Trim(),
                string.IsNullOrWhiteSpace(wanted.Where) ? null : wanted.Where.Trim(),
                wanted.IsLicenceBound),
            CatalogueReader.Seen, c => $"For {c.Program} the catalogue offers {c.Offer}"), cancel)).ToHttp();
    }

    internal static Task<Results<NoContent, ProblemHttpResult>> DropAsync(
        RefreshKey refresh, string key, Writer writer, CancellationToken cancel) =>
        writer.DropAsync(
            refresh,
            "catalogue",
            w => w.Db.Catalogue.FirstOrDefaultAsync(c => c.Refresh == refresh && c.Key == key, cancel),
            c => c.Program,
            cancel);
}
