using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ids;
using YardRelay.Core.Planning;
using YardRelay.Core.Planning.Worlds;
using YardRelay.Records;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Planning;

/// <summary>The work behind <see cref="DraftEndpoints"/>.</summary>
internal static class DraftHandlers
{
    private const int MostUndone = 50;

    /// <summary>One move in the draft's memory: where each visit that it touched stood before.</summary>
    private sealed record Done(IReadOnlyList<Before> Before);

    private sealed record Before(string Id, Placed? At);

    private static ServiceProblem NoDraft =>
        new NoDraftToChange();

    internal static async Task<Results<Ok<MoveSeen>, ProblemHttpResult>> TryAsync(
        RefreshKey refresh, MoveWanted wanted, YardDb db, DraftDesk desk, CancellationToken cancel)
    {
        if (await db.Refreshes.AsNoTracking().FirstOrDefaultAsync(r => r.Key == refresh, cancel) is not { } row)
            return ServiceProblem.NotFound("refresh", refresh).ToHttp();
        if (await db.Plans.AsNoTracking().FirstOrDefaultAsync(p => p.Refresh == refresh && p.State == "draft", cancel) is not { } draft)
            return NoDraft.ToHttp();
        return (await desk.AtAsync(db, row, draft, laid => Task.FromResult(Tried(laid)), cancel)).ToHttp();

        Result<MoveSeen> Tried(LaidDraft laid)
        {
            if (Check(laid, wanted) is { } wrong) return wrong;
            if (wanted.Start is not { } start) return new MoveStartProblem();
            return Seen(laid, laid.Board.Try(IdOf(wanted), Technician(laid, wanted), laid.Reader.Clock.MinuteOf(start)), draft.Version);
        }
    }

    private static string IdOf(MoveWanted wanted) => wanted.Swap + (wanted.IsBench ? WorldProblem.PreparationSuffix : "");

    private static string Technician(LaidDraft laid, MoveWanted wanted) =>
        wanted.Technician ?? laid.Board.At(IdOf(wanted))?.Technician ?? laid.Posed.Problem.Technicians[0].Id;

    private static Problem? Check(LaidDraft laid, MoveWanted wanted)
    {
        if (!laid.Posed.Problem.VisitOf.ContainsKey(IdOf(wanted))) return ServiceProblem.NotFound("visit", IdOf(wanted));
        if (laid.Posed.World.Swaps.FirstOrDefault(s => s.Id == wanted.Swap) is { IsUnderWay: true } under)
            return new MoveUnderWayProblem(under.Name);
        return wanted.Technician is { } who && !laid.Posed.Problem.TechnicianOf.ContainsKey(who)
            ? ServiceProblem.NotFound("technician", who)
            : null;
    }

    private static MoveSeen Seen(LaidDraft laid, MoveAnswer answer, int version) =>
        new(
            answer.IsAllowed,
            [.. answer.Breaks.Select(b => laid.Reader.Words(b.Message)).Distinct()],
            answer.CostBefore,
            answer.CostAfter,
            laid.Reader.Seen(answer.At),
            version);

    internal static async Task<Results<Ok<MoveSeen>, ProblemHttpResult>> MoveAsync(
        RefreshKey refresh, MoveWanted wanted, HttpRequest request, Writer writer, DraftDesk desk, CancellationToken cancel) =>
        await ChangeAsync(refresh, request, writer, desk, (w, draft, laid) =>
        {
            if (Check(laid, wanted) is { } wrong) return (wrong, false);
            var (id, name) = (IdOf(wanted), laid.Reader.Name(wanted.Swap));
            if (wanted.Start is not { } start)
            {
                var (was, gone) = (laid.Board.Cost, laid.Board.TakeOut(id));
                if (gone.Count > 0) Remember(draft, new([.. gone.Select(g => new Before(g.Id, g))]));
                w.Note("plan.taken-out", wanted.Swap, $"{name} taken out of draft {draft.Number}");
                return (new MoveSeen(true, [], was, laid.Board.Cost, null, 0), gone.Count > 0);
            }
            var before = laid.Board.At(id);
            var answer = laid.Board.Move(id, Technician(laid, wanted), laid.Reader.Clock.MinuteOf(start));
            var moved = answer.IsAllowed && answer.At != before;
            if (moved)
            {
                Remember(draft, new([new(id, before)]));
                w.Note(
                    "plan.moved",
                    wanted.Swap,
                    $"{name} put to {laid.Reader.Clock.Local(start):ddd d MMM HH:mm} with {laid.Reader.Seen(answer.At).TechnicianName} in "
                        + $"draft {draft.Number}");
            }
            return (Seen(laid, answer, 0), moved);
        }, cancel);

    internal static async Task<Results<Ok<MoveSeen>, ProblemHttpResult>> UndoAsync(
        RefreshKey refresh, HttpRequest request, Writer writer, DraftDesk desk, CancellationToken cancel) =>
        await ChangeAsync(refresh, request, writer, desk, (w, draft, laid) =>
        {
            var moves = JsonSerializer.Deserialize<List<Done>>(draft.Moves)!;
            if (moves.Count == 0) return (new DraftNothingToUndoProblem(), false);
            var was = laid.Board.Cost;
            AppointmentSeen? at = null;
            foreach (var (id, before) in moves[^1].Before.Select(b => (b.Id, b.At)))
            {
                if (before is null) laid.Board.TakeOut(id);
                else if (laid.Board.Move(id, before.Technician, before.Start) is { IsAllowed: true } answer)
                    at = laid.Reader.Seen(answer.At);
            }
            moves.RemoveAt(moves.Count - 1);
            draft.Moves = JsonSerializer.Serialize(moves);
            w.Note("plan.undone", null, $"A move in draft {draft.Number} taken back");
            return (new MoveSeen(true, [], was, laid.Board.Cost, at, 0), true);
        }, cancel);

    private static void Remember(PlanRow draft, Done move)
    {
        var moves = JsonSerializer.Deserialize<List<Done>>(draft.Moves)!;
        moves.Add(move);
        draft.Moves = JsonSerializer.Serialize(moves.TakeLast(MostUndone));
    }

    private static async Task<Results<Ok<MoveSeen>, ProblemHttpResult>> ChangeAsync(
        string refresh,
        HttpRequest request,
        Writer writer,
        DraftDesk desk,
        Func<Change, PlanRow, LaidDraft, (Result<MoveSeen> Done, bool Changed)> change,
        CancellationToken cancel)
    {
        if (DraftVersions.VersionOf(request) is not { } version) return DraftVersions.NoVersion.ToHttp();
        return (await writer.WriteAsync<MoveSeen>(refresh, async w =>
        {
            if (await PlanReader.RowAsync(w.Db, refresh, "draft", cancel) is not { } draft) return NoDraft;
            if (draft.Version != version)
                return new StaleProblem(
                    $"The draft is at version {draft.Version} now, not {version}: somebody changed it meanwhile. Look at it and do it "
                        + $"again.",
                    new { draft.Number, draft.Version });
            return await desk.AtAsync<MoveSeen>(w.Db, w.Refresh, draft, async laid =>
            {
                // Until this is in the records the board is ahead of them: whoever comes next lays it anew if it does not get there.
                laid.Version = -1;
                var (done, changed) = change(w, draft, laid);
                if (!changed)
                {
                    laid.Version = draft.Version;
                    return done.IsOk ? done.Value with { Version = draft.Version } : done;
                }
                draft.Version++;
                draft.MadeAt = w.Now;
                var after = laid.Board.ToPlan();
                (draft.Body, draft.Placed, draft.LeftOut, draft.Cost) =
                    (PlanFile.Write(after), after.Placed.Count, WorldProblem.LeftOut(after).Count, laid.Board.Cost);
                await w.Db.SaveChangesAsync(cancel);
                laid.Version = draft.Version;
                return done.Value with { Version = draft.Version };
            }, cancel);
        }, cancel)).ToHttp();
    }
}
