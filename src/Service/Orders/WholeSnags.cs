using YardRelay.Core.Carrying;
using YardRelay.Records;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Orders;

/// <summary>Snags of a whole swap and not of one file: no gate opens while one is open.</summary>
internal static class WholeSnags
{
    /// <summary>Opens one whose words are still to be said.</summary>
    /// <param name="path">What it is about.</param>
    public static SnagRow Open(Change w, SwapRow swap, string path, SnagKind kind)
    {
        var row = new SnagRow
        {
            Id = Guid.NewGuid().ToString("N"),
            Refresh = swap.Refresh,
            Swap = swap.Id,
            Path = path,
            Kind = kind,
            Side = "old",
            Reason = "",
            CountsAsFile = false,
            End = "open",
            At = w.Now
        };
        w.Db.Snags.Add(row);
        return row;
    }
}
