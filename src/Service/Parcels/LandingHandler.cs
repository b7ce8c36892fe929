using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ids;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Parcels;

/// <summary>The work behind <see cref="LandingEndpoint"/>.</summary>
internal static class LandingHandler
{
    internal static async Task<Results<Ok<LandingSeen>, ProblemHttpResult>> GetAsync(SwapId swap, YardDb db, CancellationToken cancel)
    {
        if (!await db.Swaps.AnyAsync(s => s.Id == swap, cancel)) return ServiceProblem.NotFound("swap", swap).ToHttp();
        return TypedResults.Ok(KeptLanding.Of(await db.Cargo.AsNoTracking().FirstOrDefaultAsync(c => c.Swap == swap, cancel)).Seen());
    }

    private static string Words(LandingWanted plan)
    {
        var moves = plan.Accounts.Concat(plan.Folders).Select(m => $"{m.From} in {m.To}").ToList();
        var more = moves.Count > 5 ? $" and {moves.Count - 5} more" : "";
        var places = moves.Count == 0 ? "all in its original place" : string.Join(", ", moves.Take(5)) + more;
        var first = plan.First.Count > 0 ? $", first {string.Join(", ", plan.First.Take(5))}" : "";
        return $"{places}{first}; on a clash {plan.Clash}";
    }

    internal static async Task<Results<Ok<LandingSeen>, ProblemHttpResult>> PutAsync(
        SwapId swap, LandingWanted wanted, Writer writer, CancellationToken cancel)
    {
        static LandingMove Trimmed(LandingMove m) => new(m.From.Trim().Trim('/'), m.To.Trim().Trim('/'));
        var plan = new LandingWanted(
            [.. wanted.Accounts.Select(Trimmed)],
            [.. wanted.Folders.Select(Trimmed)],
            [.. wanted.First.Select(f => f.Trim().Trim('/'))],
            wanted.Clash.ToLowerInvariant(),
            [.. wanted.Clashes.Select(c => new LandingClash(c.Folder.Trim().Trim('/'), c.Rule.ToLowerInvariant()))]);
        if (plan.Accounts.Count + plan.Folders.Count + plan.First.Count + plan.Clashes.Count > 500)
            return new LandingManyProblem().ToHttp();
        if (KeptLanding.Read(plan, []) is { IsOk: false } bad) return bad.Problems.ToHttp();
        return (await writer.WriteAsync<LandingSeen>(swap.Refresh, async w =>
        {
            var cargo = await w.Db.Cargo.FirstOrDefaultAsync(c => c.Swap == swap, cancel);
            if (cargo is null) w.Db.Cargo.Add(cargo = new() { Swap = swap });
            var before = KeptLanding.Of(cargo);
            if (JsonSerializer.Serialize(before.Plan) == JsonSerializer.Serialize(plan)) return before.Seen();
            var kept = new KeptLanding(plan, w.By, w.Now, null);
            cargo.Landing = JsonSerializer.Serialize(kept);
            w.Note(
                "landing.set",
                swap,
                $"{w.By} decided where the parcel lands: {Words(plan)}",
                new() { ["moves"] = plan.Accounts.Count + plan.Folders.Count, ["clash"] = plan.Clash });
            return kept.Seen();
        }, cancel)).ToHttp();
    }
}
