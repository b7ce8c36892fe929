using System.Security.Cryptography;
using YardRelay.Carriage.Packs;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Trees;
using YardRelay.Core.Carrying;

namespace YardRelay.Carriage.Trips;

/// <content>Files that are larger than a pack.</content>
internal sealed partial class PackCarrier
{
    /// <summary>A file larger than a pack: cut into parts, each in a pack of its own; <c>cat</c> joins them.</summary>
    private async Task<(Entry? Entry, Snag? Snag)> CarryLargeAsync(
        TreeItem item, Entry template, NodeFacts facts, bool again, CancellationToken cancel)
    {
        lock (_gate)
        {
            _underWay++;
            if (!again) Came();
        }
        try
        {
            return await InSlotAsync(() => CarryPartsAsync(item, template, facts, cancel), cancel);
        }
        finally
        {
            lock (_gate) _underWay--;
        }
    }

    private async Task<(Entry? Entry, Snag? Snag)> CarryPartsAsync(TreeItem item, Entry template, NodeFacts facts, CancellationToken cancel)
    {
        var parts = (int)((facts.Bytes + PackPiece.Most - 1) / PackPiece.Most);
        var (first, pieces) = (_packs.Number(parts), new List<PackPiece>());
        IncrementalHash? before = null;
        Member? member = null;
        for (var part = 0; part < parts; part++)
        {
            var from = part * PackPiece.Most;
            member = new(
                template with { Bytes = facts.Bytes },
                item.Raw,
                facts,
                from,
                Math.Min(PackPiece.Most, facts.Bytes - from),
                $"{template.Path.Text}=~part-{part + 1:00000}",
                before);
            var outcome = await SaveAsync([member], first + part, cancel);
            if (Trouble(member, outcome, template, facts) is { } snag) return (null, snag);
            pieces.Add(new(first + part, member.HeaderBytes, member.Bytes));
            before?.Dispose();
            before = member.Digest;
        }
        before?.Dispose();
        return (Finished(member!.Entry, facts, member, pieces), null);
    }
}
