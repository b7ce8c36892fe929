using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ids;
using YardRelay.Core.Roster;
using YardRelay.Records;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Rosters;

/// <summary>The work behind <see cref="RosterEndpoint"/>.</summary>
internal static class RosterHandler
{
    internal static readonly string[][] Sample =
    [
        [
            "kb900", "Ines Falk", "ines.falk@kestrelbay.example", "Ticketing", "Ticket clerk", "North Quay", "Ticket hall", "renew",
            "KB-9001", "Fulmar 13", "windows", "KB-9101", "Gannet 14", "linux", "", "", "",
            "2026-11-25 08:00-12:00; 2026-11-26 13:00-16:00", "2026-11-25 09:00-11:00", ""
        ],
        [
            "kb901", "Jonas Weck", "jonas.weck@kestrelbay.example", "Crew desk", "Deck hand", "Lantern Point", "Freight desk", "issue", "",
            "", "", "KB-9102", "Gannet 14", "linux", "", "", "", "", "", ""
        ],
        [
            "kb902", "Mara Thole", "mara.thole@kestrelbay.example", "Workshop", "Fitter", "Workshop", "", "leave", "KB-9003", "Fulmar 13",
            "", "", "", "", "kb900", "2026-12-31", "workshop; stores", "", "", ""
        ],
    ];

    internal static async Task<Results<Ok<RosterTaken>, ProblemHttpResult>> TakeAsync(
        RefreshKey refresh, HttpRequest request, Writer writer, YardDb db, RosterDesk desk, bool dryRun = false, bool skipFaulty = false,
        bool dropGone = false, string? name = null, CancellationToken cancel = default)
    {
        if (name is { Length: > 64 or 0 })
            return new RosterNameProblem().ToHttp();
        if (!(await RosterFile.ReadAsync(request, cancel)).TryGet(out var file, out var tooLarge)) return tooLarge.ToHttp();
        if (!RosterFile.TableOf(file).TryGet(out var table, out var broken)) return broken.ToHttp();
        var kept = await db.Columns.AsNoTracking().Where(c => c.Refresh == refresh).ToDictionaryAsync(c => c.Head, c => c.Column, cancel);
        using var seen = desk.Begin(refresh, name, table.Rows.Count);
        var reading = RosterReader.Read(table, kept, rows => seen.At("reading", rows));
        var columns = reading.Columns.Select((c, i) =>
            new ColumnMatch(c.Head, c.Column, c.By, [.. table.Rows.Select(r => r.Cells[i])
                .Where(v => v.Length > 0).Distinct()
                .Take(3)])).ToList();
        var taken = await writer.WriteAsync<RosterTaken>(
            refresh, w => RosterTaker.TakeAsync(w, reading, columns, new(dryRun, skipFaulty, dropGone), seen, cancel), cancel);
        return taken.Problems.FirstOrDefault() is RosterTaker.DryRun dry ? TypedResults.Ok(dry.Taken) : taken.ToHttp();
    }

    internal static async Task<Results<Ok<Dictionary<string, string>>, ProblemHttpResult>> MatchAsync(
        RefreshKey refresh, Dictionary<string, string> wanted, Writer writer, CancellationToken cancel)
    {
        if (wanted.Count > 200 || wanted.Any(m => m.Key.Length > 200))
            return new TooManyColumns().ToHttp();
        if (wanted.Values.FirstOrDefault(v => v.Length > 0 && !RosterColumns.All.Contains(v)) is { } unknown)
            return new ColumnUnknown(unknown, string.Join(", ", RosterColumns.All)).ToHttp();
        return (await writer.WriteAsync<Dictionary<string, string>>(refresh, async w =>
        {
            var rows = await w.Db.Columns.Where(c => c.Refresh == refresh).ToDictionaryAsync(c => c.Head, cancel);
            foreach (var (head, column) in wanted.Select(m => (RosterColumns.Form(m.Key), m.Value)))
            {
                if (!rows.TryGetValue(head, out var row))
                    w.Db.Columns.Add(rows[head] = row = new() { Refresh = refresh, Head = head, Column = column });
                row.Column = column;
            }
            w.Note(
                "roster.matched",
                null,
                $"Columns of the roster matched: "
                    + $"{string.Join(", ", wanted.Select(m => $"{m.Key} is {(m.Value.Length == 0 ? "left out" : m.Value)}"))}");
            return rows.ToDictionary(r => r.Key, r => r.Value.Column);
        }, cancel)).ToHttp();
    }

    internal static async Task<Ok<List<TakingSeen>>> TakingsAsync(RefreshKey refresh, YardDb db, CancellationToken cancel)
    {
        var seen = new List<TakingSeen>();
        foreach (var taking in await db.Takings.AsNoTracking()
            .Where(t => t.Refresh == refresh)
            .OrderByDescending(t => t.Number)
            .Take(20)
            .ToListAsync(cancel))
            seen.Add(RosterTaker.Seen(taking, await RosterTaker.WhyNotUndoneAsync(db, taking, cancel)));
        return TypedResults.Ok(seen);
    }

    internal static async Task<Results<Ok<TakingSeen>, ProblemHttpResult>> UndoAsync(
        RefreshKey refresh, int number, Writer writer, CancellationToken cancel) =>
        (await writer.WriteAsync<TakingSeen>(refresh, w => RosterTaker.UndoAsync(w, number, cancel), cancel)).ToHttp();
}
