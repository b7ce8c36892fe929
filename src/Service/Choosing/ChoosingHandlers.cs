using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
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
        string refresh, YardDb db, CancellationToken cancel) =>
        await db.Refreshes.AsNoTracking().FirstOrDefaultAsync(r => r.Key == refresh, cancel) is { } row
            ? TypedResults.Ok(RulesOf(row))
            : new Problem[] { ServiceProblem.NotFound("refresh", refresh) }.ToHttp();

    internal static async Task<Results<Ok<ChoosingRules>, ProblemHttpResult>> PutAsync(
        string refresh, ChoosingRules wanted, Writer writer, CancellationToken cancel)
    {
        var faults = WorldWrite.Faults(
            wanted.UntilHours is < 2 or > 720
                ? new("choosing.until", $"Choosing ends 2 to 720 hours before the appointment, not {wanted.UntilHours}.")
                : null,
            wanted.MostPerSlot is < 1 or > 1000
                ? new("choosing.most", $"1 to 1000 visits may begin at one time, not {wanted.MostPerSlot}. Leave it out for no bound.")
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

    internal static async Task<Ok<List<WaitingSeen>>> WaitingAsync(string refresh, YardDb db, CancellationToken cancel) =>
        TypedResults.Ok(await db.Waits.AsNoTracking()
            .Where(v => v.Refresh == refresh)
            .OrderBy(v => v.At)
            .ThenBy(v => v.Swap)
            .Take(MostWaiting)
            .Join(db.Swaps, v => v.Swap, s => s.Id, (v, s) => new WaitingSeen(s.Id, s.Name, s.Site, v.From, v.Until, v.At, s.Start))
            .ToListAsync(cancel));

    internal static async Task<Ok<List<GroupSeen>>> GroupsAsync(string refresh, YardDb db, CancellationToken cancel) =>
        TypedResults.Ok(await GroupReader.ReadGroupsAsync(db, refresh, cancel));

    internal static async Task<Results<Ok<GroupSeen>, ProblemHttpResult>> PutGroupAsync(
        string refresh, string key, GroupWanted wanted, Writer writer, CancellationToken cancel)
    {
        List<string> swaps = [.. wanted.Swaps.Select(s => s.Trim()).Where(s => s.Length > 0).Distinct()];
        var faults = WorldWrite.Faults(
            WorldWrite.KeyFault("group", key), WorldWrite.NameFault("group", wanted.Name),
            swaps.Count is < 2 or > MostInGroup
                ? new("group.swaps", $"Group '{wanted.Name}' has {swaps.Count} swaps. Name 2 to {MostInGroup}.")
                : null,
            wanted is { AtOnce: null, OneDay: false }
                ? new(
                    "group.rule",
                    $"Group '{wanted.Name}' says neither how many may have their appointment at once nor that they go on one day. Say one "
                        + $"of the two.")
                : null,
            wanted.AtOnce < 1 ? new("group.at-once", "1 or more may have their appointment at once.") : null,
            wanted.AtOnce >= swaps.Count
                ? new("group.at-once", $"The group has {swaps.Count} swaps, so {wanted.AtOnce} at once bounds nothing. Allow fewer.")
                : null);
        if (faults.Count > 0) return faults.ToHttp();
        return (await writer.WriteAsync<GroupSeen>(refresh, async w =>
        {
            var names = await w.Db.Swaps.Where(s => s.Refresh == refresh && swaps.Contains(s.Id))
                .ToDictionaryAsync(s => s.Id, s => s.Name, cancel);
            if (swaps.Find(s => !names.ContainsKey(s)) is { } unknown) return ServiceProblem.NotFound("swap", unknown);
            if (await w.Db.Groups.AnyAsync(g => g.Refresh == refresh && g.Key != key && g.Name == wanted.Name, cancel))
                return ServiceProblem.Conflict("group.name", $"Another group is called '{wanted.Name}' already. Choose another name.");
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
        string refresh, string key, Writer writer, CancellationToken cancel) =>
        writer.DropAsync(
            refresh, "group", w => w.Db.Groups.FirstOrDefaultAsync(g => g.Refresh == refresh && g.Key == key, cancel), g => g.Name, cancel);
}
