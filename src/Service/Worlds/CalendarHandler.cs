using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ids;
using YardRelay.Records;
using YardRelay.Service.Problems;
using YardRelay.Service.Rosters;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Worlds;

/// <summary>The work behind <see cref="CalendarEndpoint"/>.</summary>
internal static class CalendarHandler
{
    internal static async Task<Results<Ok<CalendarTaken>, ProblemHttpResult>> HandleAsync(
        RefreshKey refresh, HttpRequest request, YardDb db, Writer writer, TimeProvider time, CancellationToken cancel,
        string? site = null)
    {
        if (!(await RosterFile.ReadAsync(request, cancel)).TryGet(out var file, out _))
            return new CalendarSizeProblem().ToHttp();
        Ical.Net.Calendar? calendar;
        try
        {
            calendar = Ical.Net.Calendar.Load(System.Text.Encoding.UTF8.GetString(file));
        }
        catch (Exception broken)
            when (broken is System.Runtime.Serialization.SerializationException or FormatException or ArgumentException
                or InvalidOperationException)
        {
            calendar = null;
        }
        if (calendar is null || calendar.Events.Count == 0)
            return new CalendarFormProblem().ToHttp();
        if (await db.Refreshes.AsNoTracking().FirstOrDefaultAsync(r => r.Key == refresh, cancel) is not { } row)
            return ServiceProblem.NotFound("refresh", refresh).ToHttp();
        // Reckoned before anything is locked: somebody else's rules take as long as they take, up to a bound.
        if (!CalendarDays.Within(calendar, row, time).TryGet(out var found, out var problem)) return problem.ToHttp();
        return (await writer.WriteAsync<CalendarTaken>(refresh, async w =>
        {
            if (site is not null && !await w.Db.Sites.AnyAsync(s => s.Refresh == refresh && s.Key == site, cancel))
                return ServiceProblem.NotFound("site", site);
            var rows = await w.Db.Closures.Where(c => c.Refresh == refresh).ToDictionaryAsync(c => c.Key, cancel);
            var changed = false;
            foreach (var (key, name, at) in found)
            {
                if (!rows.TryGetValue(key, out var closure))
                    w.Db.Closures.Add(rows[key] = closure = new() { Refresh = refresh, Key = key, Name = "", At = "" });
                var before = WorldView.Seen(closure);
                (closure.Name, closure.Site, closure.At) = (name.Length > 100 ? name[..100] : name, site, at.ToString());
                changed |= before != WorldView.Seen(closure);
            }
            if (changed)
            {
                w.WorldChanged();
                w.Note(
                    "closure.calendar",
                    null,
                    $"{found.Count} closures taken from a calendar{(site is null ? "" : $" for {site}")}",
                    new() { ["closures"] = found.Count });
            }
            return new CalendarTaken(
                found.Count,
                calendar.Events.Count - found.Select(f => f.Key[..f.Key.LastIndexOf(' ')]).Distinct().Count(),
                [.. found.Select(f => WorldView.Seen(rows[f.Key]))]);
        }, cancel)).ToHttp();
    }
}
