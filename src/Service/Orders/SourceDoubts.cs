using System.Globalization;
using Microsoft.EntityFrameworkCore;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.Sources;
using YardRelay.Records;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Orders;

/// <summary>
/// A trip that stopped because its source does not look like what was carried before: a snag until a person says what it is.
/// </summary>
internal static class SourceDoubts
{
    /// <summary>What such a snag is about.</summary>
    public const string Path = "(all of it)";

    private const int MostWords = 1000;

    /// <summary>Opens the snag, or the same one again where an answer did not hold for what is seen now.</summary>
    public static async Task OpenAsync(Change w, SwapRow swap, SourceDoubt doubt, CancellationToken cancel)
    {
        var row = await KnownAsync(w, swap, cancel);
        row ??= WholeSnags.Open(w, swap, Path, SnagKind.SourceDoubted);
        var words = doubt.Words.Length > MostWords ? doubt.Words[..MostWords] : doubt.Words;
        (row.Bytes, row.Files, row.Reason) = (doubt.Gone.Bytes, doubt.Unlike, words);
        (row.Doubt, row.End, row.EndedBy, row.EndReason, row.EndedAt, row.Verdict) = (doubt.Kind, "open", null, null, null, null);
        w.Note(
            "snag.found",
            swap.Id,
            $"Snag: {words}",
            new()
            {
                ["snag"] = row.Id,
                ["kind"] = row.Kind.ToString(),
                ["files"] = row.Files.ToString(CultureInfo.InvariantCulture)
            });
    }

    /// <summary>What a person said; null: there is no doubt, or nobody has said anything.</summary>
    public static async Task<SourceAnswer?> AnswerAsync(Change w, SwapRow swap, CancellationToken cancel) =>
        await KnownAsync(w, swap, cancel) is { End: "waived", Verdict: { } verdict, EndedBy: { } by } row
            ? new(verdict, row.Files, by, row.EndReason ?? "")
            : null;

    private static Task<SnagRow?> KnownAsync(Change w, SwapRow swap, CancellationToken cancel) =>
        w.Db.Snags.FirstOrDefaultAsync(n => n.Swap == swap.Id && n.Kind == SnagKind.SourceDoubted && n.End != "retried", cancel);
}
