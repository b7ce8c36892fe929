using System.Globalization;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Carrying;
using YardRelay.Records;
using YardRelay.Service.Facts;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Orders;

/// <summary>Enters what came into a parcel: sums into the account of its swap, snags opened or ended.</summary>
internal static class AccountEntry
{
    public static async Task CarriedAsync(
        Change w, SwapRow swap, IReadOnlyList<FolderResult> folders, IReadOnlyList<Snag> snags, int trip,
        CancellationToken cancel)
    {
        var before = await w.Db.Folders.Where(f => f.Swap == swap.Id).ToDictionaryAsync(f => f.Folder, cancel);
        foreach (var f in folders)
        {
            if (!before.Remove(f.Folder, out var row)) w.Db.Folders.Add(row = new() { Swap = swap.Id, Folder = f.Folder });
            (row.OldFiles, row.OldBytes, row.DepotFiles, row.DepotBytes, row.NewFiles, row.NewBytes) =
                (f.Seen.Files, f.Seen.Bytes, f.Arrived.Files, f.Arrived.Bytes, null, null);
            (row.LeftOutFiles, row.LeftOutBytes) = (f.LeftOut?.Files ?? 0, f.LeftOut?.Bytes ?? 0);
            (row.GoneFiles, row.GoneBytes) = (f.Gone?.Files ?? 0, f.Gone?.Bytes ?? 0);
        }
        w.Db.Folders.RemoveRange(before.Values);
        (swap.Trips, swap.TripAt, swap.RestoreAt, swap.RestoreWhole) = (Math.Max(swap.Trips + 1, trip), w.Now, null, false);
        swap.SurveyedAt ??= w.Now;
        await EnterSnagsAsync(w, swap, "old", snags, $"trip {swap.Trips}", cancel);
    }

    /// <summary>Snags that are gone ended by a retry; those that a person waived stay waived while the file still fails.</summary>
    public static async Task EnterSnagsAsync(
        Change w, SwapRow swap, string side, IReadOnlyList<Snag> found, string by, CancellationToken cancel)
    {
        var known = await w.Db.Snags.Where(n => n.Swap == swap.Id && n.Side == side && n.End != "retried").ToListAsync(cancel);
        var names = await SnagNames.ReadAsync(w.Db, [swap.Id], cancel);
        foreach (var ended in known.Where(k => found.All(f => f.Path != k.Path)))
        {
            (ended.End, ended.EndedBy, ended.EndReason, ended.EndedAt) = ("retried", by, null, w.Now);
            var words = ended.Kind == SnagKind.SourceDoubted ? $"What was carried is no longer in doubt since {by}" : null;
            words ??= $"{names.Of(swap.Id, ended.Path)} is carried by {by}";
            w.Note("snag.retried", swap.Id, words, new() { ["snag"] = ended.Id });
        }
        foreach (var snag in found)
        {
            if (known.FirstOrDefault(k => k.Path == snag.Path) is { } again)
            {
                (again.Kind, again.Bytes, again.Reason, again.CountsAsFile, again.Files) =
                    (snag.Kind, snag.Bytes, snag.Reason, snag.CountsAsFile, snag.Files);
                continue;
            }
            var row = new SnagRow
            {
                Id = Guid.NewGuid().ToString("N"),
                Refresh = swap.Refresh,
                Swap = swap.Id,
                Path = snag.Path,
                Kind = snag.Kind,
                Side = side,
                Bytes = snag.Bytes,
                Reason = snag.Reason,
                CountsAsFile = snag.CountsAsFile,
                Files = snag.Files,
                End = "open",
                At = w.Now
            };
            w.Db.Snags.Add(row);
            w.Note(
                "snag.found",
                swap.Id,
                $"Snag: {names.Of(swap.Id, snag.Path)}: {snag.Reason}",
                new()
                {
                    ["snag"] = row.Id,
                    ["kind"] = snag.Kind.ToString(),
                    ["bytes"] = snag.Bytes.ToString(CultureInfo.InvariantCulture)
                });
        }
    }
}
