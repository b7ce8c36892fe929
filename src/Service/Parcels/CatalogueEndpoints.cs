using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying.Catalogues;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Problems;
using YardRelay.Service.Worlds;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Parcels;

/// <summary>The organisation's catalogue: what it offers for the programs that are found on old computers.</summary>
internal static class CatalogueEndpoints
{
    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapGet("/refreshes/{refresh}/catalogue", ListAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("ListCatalogue")
            .WithSummary("What is offered for the programs of old computers.");
        routes.MapPut("/refreshes/{refresh}/catalogue/{key}", PutAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("PutCatalogueLine")
            .WithSummary("Makes or changes a line of the catalogue.");
        routes.MapDelete("/refreshes/{refresh}/catalogue/{key}", DropAsync)
            .RequireAuthorization(Roles.Leads)
            .WithName("DropCatalogueLine")
            .WithSummary("Takes a line out of the catalogue.");
    }

    public static async Task<ProgramCatalogue> ReadAsync(YardDb db, string refresh, CancellationToken cancel) =>
        new(await db.Catalogue.AsNoTracking()
            .Where(c => c.Refresh == refresh)
            .OrderBy(c => c.Key)
            .Select(c => new CatalogueLine(c.Program, c.Offer, c.Where, c.IsLicenceBound))
            .ToListAsync(cancel));

    public static CatalogueSeen Seen(CatalogueRow c) => new(c.Key, c.Program, c.Offer, c.Where, c.IsLicenceBound);

    private static async Task<Ok<List<CatalogueSeen>>> ListAsync(string refresh, YardDb db, CancellationToken cancel) =>
        TypedResults.Ok((await db.Catalogue.AsNoTracking()
            .Where(c => c.Refresh == refresh)
            .OrderBy(c => c.Program)
            .ThenBy(c => c.Key)
            .ToListAsync(cancel))
            .ConvertAll(Seen));

    private static async Task<Results<Ok<CatalogueSeen>, ProblemHttpResult>> PutAsync(
        string refresh, string key, CatalogueWanted wanted, Writer writer, CancellationToken cancel)
    {
        var faults = WorldWrite.Faults(
            WorldWrite.KeyFault("catalogue line", key),
            WorldWrite.NameFault("program", wanted.Program),
            WorldWrite.NameFault("program to install", wanted.Offer),
            wanted.Where is { Length: > 300 } ? new Problem("catalogue.where", "Where to get it has at most 300 characters.") : null,
            wanted.Program is { } name && name.Trim('*', ' ').Length == 0
                ? new Problem("catalogue.program", $"'{name}' fits every program. Name at least a part of one.")
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
            Seen, c => $"For {c.Program} the catalogue offers {c.Offer}"), cancel)).ToHttp();
    }

    private static Task<Results<NoContent, ProblemHttpResult>> DropAsync(
        string refresh, string key, Writer writer, CancellationToken cancel) =>
        writer.DropAsync(
            refresh,
            "catalogue",
            w => w.Db.Catalogue.FirstOrDefaultAsync(c => c.Refresh == refresh && c.Key == key, cancel),
            c => c.Program,
            cancel);
}
