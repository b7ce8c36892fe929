using System.Security.Claims;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
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
        string swap, SignOffWanted wanted, ClaimsPrincipal user, Writer writer, TimeProvider time, CancellationToken cancel)
    {
        if (wanted.Part == SignOffPart.Coordinator && user.RoleOf() != Roles.Coordinator)
            return new Problem[] { ServiceProblem.Forbidden("Only a coordinator signs the whole swap off.") }.ToHttp();
        if (SignOffDesk.DrawnFault(wanted.Drawn) is { } fault) return new[] { fault }.ToHttp();
        if (wanted.Part != SignOffPart.Person && (wanted.Drawn is not null || wanted.Name is not null))
            return new Problem[]
            {
                new("sign-off.name", "Name and drawn signature are the person's; you sign with your own account.")
            }.ToHttp();
        return (await writer.WriteAsync<SignOffSeen>(
            SwapScope.RefreshOf(swap), w => SignOffDesk.SignPartAsync(w, swap, wanted, isOwn: false, time, cancel), cancel)).ToHttp();
    }

    internal static async Task<Results<ContentHttpResult, ProblemHttpResult>> PaperAsync(
        string swap, string part, YardDb db, CancellationToken cancel) =>
        PartOf(part) is not { } which ? new Problem[] { ServiceProblem.NotFound("part", part) }.ToHttp()
        : await db.SignOffs.AsNoTracking()
            .Where(s => s.Swap == swap && s.Part == which)
            .Select(s => s.Saw)
            .FirstOrDefaultAsync(cancel) is { Length: > 0 } paper
            ? TypedResults.Content(paper, "application/json; charset=utf-8")
            : new Problem[]
            {
                new ServiceProblem("sign-off.none", $"Swap {swap} is not signed off as {SignOffDesk.PartText(which)}.", 404)
            }.ToHttp();

    internal static async Task<Results<FileContentHttpResult, ProblemHttpResult>> PdfAsync(
        string swap, HttpRequest request, YardDb db, SwapReader reader, TimeProvider time, CancellationToken cancel)
    {
        if (await reader.GetAsync(swap, cancel) is not { } seen) return new Problem[] { ServiceProblem.NotFound("swap", swap) }.ToHttp();
        var refresh = SwapScope.RefreshOf(swap);
        var clock = new RefreshClock(await db.Refreshes.AsNoTracking().FirstAsync(r => r.Key == refresh, cancel));
        var page = $"{request.Scheme}://{request.Host}{request.PathBase}/swaps/{Uri.EscapeDataString(swap)}";
        return SwapPaper.TryWrite(seen, clock, time.GetUtcNow(), page).TryGet(out var pdf, out var problem)
            ? TypedResults.File(pdf, "application/pdf", $"{swap}.pdf")
            : new[] { problem }.ToHttp();
    }

    internal static async Task<Results<Ok<SwapSeen>, ProblemHttpResult>> ReopenAsync(
        string swap, string part, ReopeningWanted wanted, ClaimsPrincipal user, Writer writer, SwapReader reader,
        CancellationToken cancel)
    {
        if (PartOf(part) is not { } which) return new Problem[] { ServiceProblem.NotFound("part", part) }.ToHttp();
        var reason = wanted.Reason?.Trim() ?? "";
        if (reason.Length is 0 or > MostReason)
            return new Problem[]
            {
                new("sign-off.reason", $"Say in 1 to {MostReason} characters why what was signed is opened again.")
            }.ToHttp();
        var done = await writer.WriteAsync<string>(SwapScope.RefreshOf(swap), async w =>
        {
            var voided = (await w.Db.SignOffs.Where(s => s.Swap == swap).ToListAsync(cancel)).FindAll(s => s.Part >= which);
            if (!voided.Exists(s => s.Part == which))
                return ServiceProblem.Conflict(
                    "sign-off.none", $"Swap {swap} is not signed off as {SignOffDesk.PartText(which)}, so there is nothing to open again.");
            if (voided.Exists(s => s.Part == SignOffPart.Coordinator) && user.RoleOf() != Roles.Coordinator)
                return ServiceProblem.Forbidden("The coordinator has signed the whole swap; only a coordinator opens it again.");
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
            return swap;
        }, cancel);
        return done.IsOk ? TypedResults.Ok((await reader.GetAsync(swap, cancel))!) : done.Problems.ToHttp();
    }

    private static SignOffPart? PartOf(string text) =>
        Enum.GetValues<SignOffPart>().Cast<SignOffPart?>().FirstOrDefault(p =>
            string.Equals(p.ToString(), text, StringComparison.OrdinalIgnoreCase));
}
