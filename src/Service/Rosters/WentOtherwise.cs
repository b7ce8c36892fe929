using Microsoft.EntityFrameworkCore;
using YardRelay.Core.Detours;
using YardRelay.Records;

namespace YardRelay.Service.Rosters;

/// <summary>What went otherwise is a fact; a roster that is taken again still says what was planned, and does not undo it.</summary>
internal sealed class WentOtherwise
{
    private static readonly DetourKind[] OfTheDay =
        [DetourKind.NoShow, DetourKind.Late, DetourKind.Later, DetourKind.WrongPerson, DetourKind.FilesMissed];

    private readonly HashSet<string> _changed;
    private readonly HashSet<string> _later;

    private WentOtherwise(HashSet<string> changed, HashSet<string> later) => (_changed, _later) = (changed, later);

    public static async Task<WentOtherwise> ReadAsync(YardDb db, string refresh, CancellationToken cancel)
    {
        var all = await db.Detours.Where(d => d.Refresh == refresh).Select(d => new { d.Swap, d.Kind }).ToListAsync(cancel);
        return new(
            [.. all.Where(d => !OfTheDay.Contains(d.Kind)).Select(d => d.Swap)],
            [.. all.Where(d => d.Kind == DetourKind.Later).Select(d => d.Swap)]);
    }

    /// <param name="after">As the file has it.</param>
    /// <returns>The same, but for what is otherwise since.</returns>
    public RosterFields Keep(string swap, RosterFields before, RosterFields after)
    {
        if (_changed.Contains(swap))
            after = after with { Kind = before.Kind, NewTag = before.NewTag, NewModel = before.NewModel, Receiver = before.Receiver };
        return _later.Contains(swap) ? after with { Free = before.Free } : after;
    }
}
