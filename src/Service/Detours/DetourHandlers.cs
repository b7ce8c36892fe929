using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Detours;
using YardRelay.Core.Ids;
using YardRelay.Core.SignOffs;
using YardRelay.Core.Swaps;
using YardRelay.Service.Accounts;
using YardRelay.Service.Facts;
using YardRelay.Service.Keeping;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Detours;

/// <summary>The work behind <see cref="DetourEndpoints"/>.</summary>
internal static class DetourHandlers
{
    private const int MostReason = 500;
    private const int MostWhere = 120;

    internal static async Task<Results<Ok<DetourTaken>, ProblemHttpResult>> HandleAsync(
        SwapId swap, DetourTold told, ClaimsPrincipal user, Writer writer, Ended ended, CancellationToken cancel)
    {
        var reason = told.Reason?.Trim();
        if (Wrong(told, reason, user) is { } wrong) return wrong.ToHttp();
        DetourTaken? looked = null;
        var answer = await writer.WriteAsync<DetourTaken>(swap.Refresh, async w =>
        {
            var row = await w.Db.Swaps.FirstAsync(s => s.Id == swap, cancel);
            var signed = await w.Db.SignOffs.AnyAsync(s => s.Swap == swap && s.Part == SignOffPart.Technician, cancel);
            var gone = await DetourReader.GoneAsync(w.Db, row, cancel);
            if (DetourRule.Refusal(told.Kind, DetourReader.FactsOf(row, signed, gone), w.Now) is { } no)
                return ServiceProblem.AsConflict(no);
            var name = row.Name;
            var work = new DetourWork(w, row, user.NameOf(), user.MayWorkAt, told.DryRun == true ? null : ended);
            var said = told with { Reason = reason, Tag = told.Tag?.Trim(), Where = told.Where?.Trim(), Other = told.Other?.Trim() };
            if (!(await work.RunAsync(said, cancel))
                .TryGet(out var words, out var problem))
                return problem;
            w.Db.Detours.Add(new()
            {
                Id = Guid.CreateVersion7(w.Now).ToString(),
                Refresh = row.Refresh,
                Swap = swap,
                Kind = told.Kind,
                Words = words,
                By = w.By,
                At = w.Now
            });
            row.ChecklistVersion++;
            w.WorldChanged();
            w.Note("swap.detour", swap, words, new() { ["detour"] = told.Kind.ToString() });
            await SwapSettling.SettleAsync(w, row, cancel);
            var taken = new DetourTaken(swap, name, told.Kind, told.DryRun != true, words, work.Lines);
            if (told.DryRun != true) return taken;
            // A look goes the whole way, and then nothing of it is kept.
            looked = taken;
            return new OnlyLooked();
        }, cancel);
        return looked is not null ? TypedResults.Ok(looked) : answer.ToHttp();
    }

    private static Problem? Wrong(DetourTold told, string? reason, ClaimsPrincipal user)
    {
        var needsReason = told.Kind is DetourKind.PersonGone or DetourKind.DeadOnArrival or DetourKind.CalledOff or DetourKind.FilesMissed;
        if (reason?.Length > MostReason || (needsReason && reason is null or ""))
            return told.Kind == DetourKind.FilesMissed ? new DetourMissedProblem(MostReason) : new DetourReasonProblem(MostReason);
        if (told.Where?.Length > MostWhere || (told.Kind == DetourKind.Found && string.IsNullOrWhiteSpace(told.Where)))
            return new DetourWhereProblem(MostWhere);
        return told.Kind switch
        {
            DetourKind.Late when told.Minutes is not (>= 5 and <= 600) => new DetourMinutesProblem(),
            DetourKind.WrongComputer when string.IsNullOrWhiteSpace(told.Tag) => new WhichComputer(),
            DetourKind.Later when told.From is null => new DetourFromProblem(),
            DetourKind.WrongPerson when string.IsNullOrWhiteSpace(told.Other) => new DetourOtherProblem(),
            DetourKind.CalledOff or DetourKind.Resumed or DetourKind.PersonGone when user.RoleOf() == Roles.Technician =>
                new CoordinatorDecides(),
            _ => null,
        };
    }
}
