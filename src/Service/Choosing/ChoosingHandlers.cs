using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ids;
using YardRelay.Records;
using YardRelay.Service.Problems;
using YardRelay.Service.Worlds;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Choosing;

/// <summary>The work behind <see cref="ChoosingEndpoints"/>.</summary>
internal static class ChoosingHandlers
{
    private const int MostWaiting = 2000;
    private const int MostInGroup = 500;

    private static ChoosingRules RulesOf(RefreshRow r) => new(r.ChooseHours, r.MostPerSlot);

    internal static async Task<Results<Ok<ChoosingRules>, ProblemHttpResult>> GetAsync(
        RefreshKey refresh, YardDb db, CancellationToken cancel) =>
        await db.Refreshes.AsNoTracking().FirstOrDefaultAsync(r => r.Key == refresh, cancel) is { } row
            ? TypedResults.Ok(RulesOf(row))
            : ServiceProblem.NotFound("refresh", refresh).ToHttp();

    internal static async Task<Results<Ok<ChoosingRules>, ProblemHttpResult>> PutAsync(
        RefreshKey refresh, ChoosingRules wanted, Writer writer, CancellationToken cancel)
    {
        var faults = WorldWrite.Faults(
            wanted.UntilHours is < 2 or > 720
                ? new ChoosingUntilProblem(wanted.UntilHours)
                : null,
            wanted.MostPerSlot is < 1 or > 1000
                ? new ChoosingMostProblem(wanted.MostPerSlot)
                : null);
        if (faults.Count > 0) return faults.ToHttp();
        return (await writer.WriteAsync<ChoosingRules>(refresh, w =>
        {
            if (RulesOf(w.Refresh) != wanted)
            {
                (w.Refresh.ChooseHours, w.Refresh.MostPerSlot) = (wanted.UntilHours, wanted.MostPerSlot);
                w.WorldChanged();
                w.Note(
                    "choosing.set",
                    null,
                    $"People choose their times until {wanted.UntilHours} hours before"
                        + $"{(wanted.MostPerSlot is { } most ? $", at most {most} for one time at a site" : "")}");
            }
            return Task.FromResult<Result<ChoosingRules>>(wanted);
        }, cancel)).ToHttp();
    }

    internal static async Task<Ok<List<WaitingSeen>>> WaitingAsync(RefreshKey refresh, YardDb db, CancellationToken cancel) =>
        TypedResults.Ok(await db.Waits.AsNoTracking()
            .Where(v => v.Refresh == refresh)
            .OrderBy(v => v.At)
            .ThenBy(v => v.Swap)
            .Take(MostWaiting)
            .Join(db.Swaps, v => v.Swap, s => s.Id, (v, s) => new WaitingSeen(s.Id, s.Name, s.Site, v.From, v.Until, v.At, s.Start))
            .ToListAsync(cancel));

    internal static async Task<Ok<List<GroupSeen>>> GroupsAsync(RefreshKey refresh, YardDb db, CancellationToken cancel) =>
        TypedResults.Ok(await GroupReader.ReadGroupsAsync(db, refresh, cancel));

    internal static async Task<Results<Ok<GroupSeen>, ProblemHttpResult>> PutGroupAsync(
        RefreshKey refresh, string key, GroupWanted wanted, Writer writer, CancellationToken cancel)
    {
        List<string> swaps = [.. wanted.Swaps.Select(s => s.Trim()).Where(s => s.Length > 0).Distinct()];
        var faults = WorldWrite.Faults(
            WorldWrite.KeyFault("group", key), WorldWrite.NameFault("group", wanted.Name),
            swaps.Count is < 2 or > MostInGroup
                ? new GroupSwapsProblem(wanted.Name, swaps.Count, MostInGroup)
                : null,
            wanted is { AtOnce: null, OneDay: false }
                ? new GroupRuleProblem(wanted.Name)
                : null,
            wanted.AtOnce < 1 ? new NobodyAtOnce() : null,
            wanted.AtOnce >= swaps.Count
                ? new AllAtOnce(swaps.Count, wanted.AtOnce)
                : null);
        if (faults.Count > 0) return faults.ToHttp();
        return (await writer.WriteAsync<GroupSeen>(refresh, async w =>
        {
            var names = await w.Db.Swaps.Where(s => s.Refresh == refresh && swaps.Contains(s.Id))
                .ToDictionaryAsync(s => s.Id, s => s.Name, cancel);
            if (swaps.Find(s => !names.ContainsKey(s)) is { } unknown) return ServiceProblem.NotFound("swap", unknown);
            if (await w.Db.Groups.AnyAsync(g => g.Refresh == refresh && g.Key != key && g.Name == wanted.Name, cancel))
                return new GroupNameProblem(wanted.Name);
            return await w.SetAsync("group", w.Db.Groups.FirstOrDefaultAsync(
                g => g.Refresh == refresh && g.Key == key, cancel), () => new GroupRow { Refresh = refresh, Key = key, Name = wanted.Name },
                row => (row.Name, row.Swaps, row.AtOnce, row.OneDay) = (wanted.Name, swaps, wanted.AtOnce, wanted.OneDay),
                g => GroupReader.Seen(g, names),
                g =>
                    $"Group {g.Name}: {g.Swaps.Count} swaps"
                        + $"{(g.AtOnce is { } most ? most == 1 ? " are kept apart" : $", at most {most} at once" : "")}"
                        + $"{(g.OneDay ? " and go on one day" : "")}");
        }, cancel)).ToHttp();
    }

    internal static Task<Results<NoContent, ProblemHttpResult>> DropGroupAsync(
        RefreshKey refresh, string key, Writer writer, CancellationToken cancel) =>
        writer.DropAsync(
            refresh, "group", w => w.Db.Groups.FirstOrDefaultAsync(g => g.Refresh == refresh && g.Key == key, cancel), g => g.Name, cancel);
}
