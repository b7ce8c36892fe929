using System.Security.Claims;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ids;
using YardRelay.Core.Ledger;
using YardRelay.Core.SignOffs;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Clocks;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Swaps;

/// <summary>The work behind <see cref="SignOffEndpoints"/>.</summary>
internal static class SignOffHandlers
{
    private const int MostReason = 500;

    internal static async Task<Results<Ok<SignOffSeen>, ProblemHttpResult>> SignAsync(
        SwapId swap, SignOffWanted wanted, ClaimsPrincipal user, Writer writer, TimeProvider time, CancellationToken cancel)
    {
        if (wanted.Part == SignOffPart.Coordinator && user.RoleOf() != Roles.Coordinator)
            return new CoordinatorSigns().ToHttp();
        if (SignOffDesk.DrawnFault(wanted.Drawn) is { } fault) return fault.ToHttp();
        if (wanted.Part != SignOffPart.Person && (wanted.Drawn is not null || wanted.Name is not null))
            return new NameIsThePersons().ToHttp();
        return (await writer.WriteAsync<SignOffSeen>(
            swap.Refresh, w => SignOffDesk.SignPartAsync(w, swap, wanted, isOwn: false, time, cancel), cancel)).ToHttp();
    }

    internal static async Task<Results<ContentHttpResult, ProblemHttpResult>> PaperAsync(
        SwapId swap, string part, YardDb db, CancellationToken cancel) =>
        PartOf(part) is not { } which ? ServiceProblem.NotFound("part", part).ToHttp()
        : await db.SignOffs.AsNoTracking()
            .Where(s => s.Swap == swap && s.Part == which)
            .Select(s => s.Saw)
            .FirstOrDefaultAsync(cancel) is { Length: > 0 } paper
            ? TypedResults.Content(paper, "application/json; charset=utf-8")
            : new NotSignedOff(swap, SignOffDesk.PartText(which)).ToHttp();

    internal static async Task<Results<FileContentHttpResult, ProblemHttpResult>> PdfAsync(
        SwapId swap, HttpRequest request, YardDb db, SwapReader reader, TimeProvider time, CancellationToken cancel)
    {
        if (await reader.GetAsync(swap, cancel) is not { } seen) return ServiceProblem.NotFound("swap", swap).ToHttp();
        var refresh = swap.Refresh;
        var clock = new RefreshClock(await db.Refreshes.AsNoTracking().FirstAsync(r => r.Key == refresh, cancel));
        var page = $"{request.Scheme}://{request.Host}{request.PathBase}/swaps/{Uri.EscapeDataString(swap)}";
        return SwapPaper.TryWrite(seen, clock, time.GetUtcNow(), page).TryGet(out var pdf, out var problem)
            ? TypedResults.File(pdf, "application/pdf", $"{swap}.pdf")
            : problem.ToHttp();
    }

    internal static async Task<Results<Ok<SwapSeen>, ProblemHttpResult>> ReopenAsync(
        SwapId swap, string part, ReopeningWanted wanted, ClaimsPrincipal user, Writer writer, SwapReader reader,
        CancellationToken cancel)
    {
        if (PartOf(part) is not { } which) return ServiceProblem.NotFound("part", part).ToHttp();
        var reason = wanted.Reason?.Trim() ?? "";
        if (reason.Length is 0 or > MostReason)
            return new SignOffReasonProblem(MostReason).ToHttp();
        var done = await writer.WriteAsync<string>(swap.Refresh, async w =>
        {
            var voided = (await w.Db.SignOffs.Where(s => s.Swap == swap).ToListAsync(cancel)).FindAll(s => s.Part >= which);
            if (!voided.Exists(s => s.Part == which))
                return new NothingToOpenAgain(swap, SignOffDesk.PartText(which));
            if (voided.Exists(s => s.Part == SignOffPart.Coordinator) && user.RoleOf() != Roles.Coordinator)
                return new CoordinatorOpensAgain();
            var row = await w.Db.Swaps.FirstAsync(s => s.Id == swap, cancel);
            w.Db.SignOffs.RemoveRange(voided);
            row.ChecklistVersion++;
            w.Note(
                "swap.reopened",
                swap,
                $"{w.By} opened what was signed for {row.Name} as "
                    + $"{string.Join(" and ", voided.OrderBy(s => s.Part).Select(s => SignOffDesk.PartText(s.Part)))} again: {reason}",
                new()
                {
                    ["part"] = SignOffDesk.PartText(which),
                    ["void"] = new JsonArray([.. voided.OrderBy(s => s.Part).Select(s => (JsonNode)LedgerChain.Digest(s.Saw))])
                });
            return swap.Text;
        }, cancel);
        return done.IsOk ? TypedResults.Ok((await reader.GetAsync(swap, cancel))!) : done.Problems.ToHttp();
    }

    private static SignOffPart? PartOf(string text) =>
        Enum.GetValues<SignOffPart>().Cast<SignOffPart?>().FirstOrDefault(p =>
            string.Equals(p.ToString(), text, StringComparison.OrdinalIgnoreCase));
}
