using System.Collections.Concurrent;
using YardRelay.Core;
using YardRelay.Core.Planning;
using YardRelay.Core.Planning.Worlds;
using YardRelay.Records;
using YardRelay.Service.Clocks;
using YardRelay.Service.Worlds;

namespace YardRelay.Service.Planning;

/// <summary>A draft laid on the table: asked and moved in microseconds while world and draft stay what they are.</summary>
internal sealed class LaidDraft(long worldVersion, WorldProblem posed, PlanBoard board, PlanReader reader, IReadOnlyList<Placed> lost)
{
    public long WorldVersion => worldVersion;

    /// <summary>Version of the draft that the board shows; -1 while a move is on its way into the records.</summary>
    public int Version { get; set; }

    public int Number { get; init; }

    public DateTimeOffset LaidAt { get; init; }

    public WorldProblem Posed => posed;

    public PlanBoard Board => board;

    public PlanReader Reader => reader;

    public IReadOnlyList<Placed> Lost => lost;
}

/// <summary>
/// Keeps the drafts that are worked on in memory. The records stay the truth: what another process changed is seen by its version, and the
/// draft is laid anew.
/// </summary>
internal sealed class DraftDesk(TimeProvider time)
{
    // What has passed meanwhile can no longer be booked; a board is not kept longer than this.
    private static readonly TimeSpan Keeps = TimeSpan.FromMinutes(5);

    private sealed class Place
    {
        public SemaphoreSlim Gate { get; } = new(1);

        public LaidDraft? Laid { get; set; }
    }

    private readonly ConcurrentDictionary<string, Place> _places = new();

    /// <summary>Does something with the draft of a refresh as it is now; one at a time.</summary>
    public async Task<Result<T>> AtAsync<T>(
        YardDb db, RefreshRow refresh, PlanRow draft, Func<LaidDraft, Task<Result<T>>> work, CancellationToken cancel)
    {
        var place = _places.GetOrAdd(refresh.Key, _ => new());
        await place.Gate.WaitAsync(cancel);
        try
        {
            if (place.Laid is not { } laid
                || laid.WorldVersion != refresh.WorldVersion
                || laid.Number != draft.Number
                || laid.Version != draft.Version
                || time.GetUtcNow() - laid.LaidAt > Keeps)
            {
                var made = await LayAsync(db, refresh, draft, cancel);
                if (!made.TryGet(out laid, out _)) return Result<T>.Failed(made.Problems);
                place.Laid = laid;
            }
            return await work(laid);
        }
        finally
        {
            place.Gate.Release();
        }
    }

    private async Task<Result<LaidDraft>> LayAsync(YardDb db, RefreshRow refresh, PlanRow draft, CancellationToken cancel)
    {
        var now = time.GetUtcNow();
        var posed = WorldProblem.Pose(
            await WorldReader.ReadAsync(db, refresh, cancel), Math.Max(0, new RefreshClock(refresh).MinuteOf(now)));
        if (!posed.TryGet(out var problem, out _)) return Result<LaidDraft>.Failed(posed.Problems);
        var board = PlanBoard.Lay(problem.Problem, await DraftPlan.ReadAsync(db, draft, problem, cancel), out var lost);
        return new LaidDraft(
            refresh.WorldVersion,
            problem,
            board,
            await PlanReader.OfAsync(db, problem, refresh, cancel),
            lost)
        { Number = draft.Number, Version = draft.Version, LaidAt = now };
    }
}
