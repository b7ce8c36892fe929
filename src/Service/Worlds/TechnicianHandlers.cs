using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ids;
using YardRelay.Core.Planning.Worlds;
using YardRelay.Core.Roster;
using YardRelay.Records;
using YardRelay.Service.Problems;
using YardRelay.Service.Rosters;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Worlds;

/// <summary>The work behind <see cref="TechnicianEndpoints"/>.</summary>
internal static class TechnicianHandlers
{
    internal static async Task<Ok<List<TechnicianSeen>>> ListAsync(RefreshKey refresh, YardDb db, CancellationToken cancel) =>
        TypedResults.Ok((await db.Technicians.AsNoTracking().Where(t => t.Refresh == refresh).OrderBy(t => t.Name).ToListAsync(cancel))
            .ConvertAll(WorldView.Seen));

    internal static async Task<Results<Ok<TechnicianSeen>, ProblemHttpResult>> PutAsync(
        RefreshKey refresh, string key, TechnicianWanted wanted, Writer writer, CancellationToken cancel)
    {
        var shifts = ShiftRule.ParseAll(wanted.Name, wanted.Shifts);
        var absences = (wanted.Absences ?? []).Select(LocalSpan.Parse).ToList();
        List<Problem> faults = [
            .. WorldWrite.Faults(WorldWrite.KeyFault("technician", key), WorldWrite.NameFault("technician", wanted.Name)),
            .. shifts.Problems,
            .. absences.SelectMany(a => a.Problems).Select(p => p with { Code = "technician.absence" })
        ];
        if (faults.Count > 0) return faults.ToHttp();
        return (await writer.WriteAsync<TechnicianSeen>(refresh, async w =>
        {
            var sites = await w.Db.Sites.Where(s => s.Refresh == refresh).Select(s => s.Key).ToListAsync(cancel);
            if (wanted.Sites.Except(sites).FirstOrDefault() is { } unknown)
                return new TechnicianSiteProblem(unknown, refresh, (sites.Count == 0 ? "none yet" : string.Join(", ", sites)));
            return await w.SetAsync(
                "technician",
                w.Db.Technicians.FirstOrDefaultAsync(t => t.Refresh == refresh && t.Key == key, cancel),
                () => new TechnicianRow { Refresh = refresh, Key = key, Name = wanted.Name, Sites = [], Shifts = [] },
                row => (row.Name, row.Sites, row.Shifts, row.Skills, row.Absences) = (
                    wanted.Name,
                    [.. wanted.Sites],
                    [.. shifts.Value.Select(s => s.Text)],
                    [.. (wanted.Skills ?? []).Select(s => s.Trim()).Where(s => s.Length > 0).Distinct()],
                    [.. absences.Select(a => a.Value.ToString())]),
                WorldView.Seen,
                t =>
                    $"Technician {t.Name} serves {string.Join(", ", t.Sites)}, {string.Join(", ", t.Shifts)}"
                        + $"{(t.Skills.Count > 0 ? $", knows {string.Join(", ", t.Skills)}" : "")}"
                        + $"{(t.Absences.Count > 0 ? $", away {string.Join("; ", t.Absences)}" : "")}");
        }, cancel)).ToHttp();
    }

    internal static async Task<Results<Ok<TechniciansTaken>, ProblemHttpResult>> TakeAsync(
        RefreshKey refresh, HttpRequest request, YardDb db, Writer writer, CancellationToken cancel, bool dryRun = false)
    {
        if (!(await RosterFile.ReadAsync(request, cancel)).TryGet(out var file, out var tooLarge)) return tooLarge.ToHttp();
        if (!RosterFile.TableOf(file).TryGet(out var table, out var broken)) return broken.ToHttp();
        if (!await db.Refreshes.AnyAsync(r => r.Key == refresh, cancel))
            return ServiceProblem.NotFound("refresh", refresh).ToHttp();
        var (lines, wrong) = TechnicianTable.Read(table);
        var sites = await db.Sites.AsNoTracking()
            .Where(s => s.Refresh == refresh)
            .OrderBy(s => s.Key)
            .Select(s => s.Key)
            .ToListAsync(cancel);
        List<RosterFault> faults = [
            .. wrong,
            .. lines.SelectMany(l => l.Sites.Except(sites).Select(s => new RosterFault(
                l.Line,
                "sites",
                s,
                $"this site is not in refresh '{refresh}'.",
                sites.Count == 0 ? "Take the roster first; it brings the sites." : $"It has {string.Join(", ", sites)}.")))
        ];
        if (faults.Count > 0 && !dryRun) return faults.OrderBy(f => f.Line).ToList<Problem>().ToHttp();
        TechnicianRow Row(TechnicianLine l) =>
            new()
            {
                Refresh = refresh,
                Key = l.Key,
                Name = l.Name,
                Sites = l.Sites.Count > 0 ? [.. l.Sites] : [.. sites],
                Shifts = [.. l.Shifts.Select(s => s.Text)],
                Skills = [.. l.Skills],
                Absences = [.. l.Absences.Select(a => a.ToString())]
            };
        var good = lines.Where(l => faults.All(f => f.Line != l.Line)).Select(Row).ToList();
        return (await writer.WriteAsync<TechniciansTaken>(refresh, async w =>
        {
            var known = await w.Db.Technicians.Where(t => t.Refresh == refresh).ToDictionaryAsync(t => t.Key, cancel);
            var (added, changed) = (0, 0);
            foreach (var row in good)
            {
                if (!known.TryGetValue(row.Key, out var there))
                {
                    added++;
                    if (!dryRun) w.Db.Technicians.Add(row);
                }
                else if (System.Text.Json.JsonSerializer.Serialize(WorldView.Seen(
                    there)) != System.Text.Json.JsonSerializer.Serialize(WorldView.Seen(row)))
                {
                    changed++;
                    if (!dryRun)
                        (there.Name, there.Sites, there.Shifts, there.Skills, there.Absences) =
                            (row.Name, row.Sites, row.Shifts, row.Skills, row.Absences);
                }
            }
            if (!dryRun && added + changed > 0)
            {
                w.WorldChanged();
                w.Note("technician.taken", null, $"A list of {good.Count} technicians taken: {added} added, {changed} changed");
            }
            return new TechniciansTaken(
                dryRun,
                added,
                changed,
                good.Count - added - changed,
                [.. good.Select(WorldView.Seen)],
                [.. faults.OrderBy(f => f.Line).Select(f => new RosterRejected(f.Line, f.Column, f.Value, f.Reason, f.Remedy))]);
        }, cancel)).ToHttp();
    }

    internal static Task<Results<NoContent, ProblemHttpResult>> DropAsync(
        RefreshKey refresh, string key, Writer writer, CancellationToken cancel) =>
        writer.DropAsync(
            refresh,
            "technician",
            w => w.Db.Technicians.FirstOrDefaultAsync(t => t.Refresh == refresh && t.Key == key, cancel),
            t => t.Name,
            cancel);
}
