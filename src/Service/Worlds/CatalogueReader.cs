using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Carrying.Catalogues;
using YardRelay.Records;

namespace YardRelay.Service.Worlds;

/// <summary>The organisation's catalogue as rules, and as people see it.</summary>
internal static class CatalogueReader
{
    public static async Task<ProgramCatalogue> ReadAsync(YardDb db, string refresh, CancellationToken cancel) =>
        new(await db.Catalogue.AsNoTracking()
            .Where(c => c.Refresh == refresh)
            .OrderBy(c => c.Key)
            .Select(c => new CatalogueLine(c.Program, c.Offer, c.Where, c.IsLicenceBound))
            .ToListAsync(cancel));

    public static CatalogueSeen Seen(CatalogueRow c) => new(c.Key, c.Program, c.Offer, c.Where, c.IsLicenceBound);
}
