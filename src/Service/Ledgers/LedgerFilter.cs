using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using YardRelay.Records;
using YardRelay.Service.Facts;

namespace YardRelay.Service.Ledgers;

/// <summary>Which entries of a ledger a caller looks for; what is null or empty does not matter.</summary>
internal sealed class LedgerFilter
{
    /// <summary>From this day on, by the clocks of the refresh.</summary>
    [FromQuery(Name = "since")]
    public DateOnly? Since { get; set; }

    /// <summary>Up to and with this day.</summary>
    [FromQuery(Name = "until")]
    public DateOnly? Until { get; set; }

    /// <summary>About this swap only.</summary>
    [FromQuery(Name = "swap")]
    public string? Swap { get; set; }

    /// <summary>Of those whose name has this in it.</summary>
    [FromQuery(Name = "by")]
    public string? By { get; set; }

    /// <summary>The newest first, and older ones page by page.</summary>
    [FromQuery(Name = "newest")]
    public bool? Newest { get; set; }

    /// <summary>Those of a chain that fit.</summary>
    /// <param name="startOf">The instant at which a day begins.</param>
    public IQueryable<LedgerRow> Of(YardDb db, string chain, Func<DateOnly, DateTimeOffset> startOf)
    {
        var rows = db.Ledger.AsNoTracking().Where(l => l.Refresh == chain);
        if (Since is { } since && startOf(since) is var from) rows = rows.Where(l => l.At >= from);
        // A calendar has a last day, and nothing happened after it.
        if (Until is { } until && until < DateOnly.MaxValue && startOf(until.AddDays(1)) is var end) rows = rows.Where(l => l.At < end);
        if (Swap is { Length: > 0 } swap) rows = rows.Where(l => l.Swap == swap);
        if (By is { Length: > 0 } by && SearchPattern.Like(by) is var pattern)
            rows = rows.Where(l => EF.Functions.Like(l.By.ToLower(), pattern, "\\") || l.Account == by);
        return rows;
    }
}
