using Ical.Net.DataTypes;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ids;
using YardRelay.Core.Planning.Worlds;
using YardRelay.Service.Problems;
using YardRelay.Service.Rosters;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Worlds;

/// <summary>The work behind <see cref="CalendarEndpoint"/>.</summary>
internal static class CalendarHandler
{
    private const int MostEvents = 500;

    internal static async Task<Results<Ok<CalendarTaken>, ProblemHttpResult>> HandleAsync(
        RefreshKey refresh, HttpRequest request, Writer writer, CancellationToken cancel, string? site = null)
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
        return (await writer.WriteAsync<CalendarTaken>(refresh, async w =>
        {
            if (site is not null && !await w.Db.Sites.AnyAsync(s => s.Refresh == refresh && s.Key == site, cancel))
                return ServiceProblem.NotFound("site", site);
            var zone = TimeZoneInfo.FindSystemTimeZoneById(w.Refresh.Zone);
            var (from, until) = (
                w.Refresh.Starts.ToDateTime(TimeOnly.MinValue), w.Refresh.Starts.AddDays(w.Refresh.Days).ToDateTime(TimeOnly.MinValue));
            var found = new List<(string Key, string Name, LocalSpan At)>();
            foreach (var one in calendar.Events.Where(e => e.Status != "CANCELLED"))
                foreach (var occurrence in one.GetOccurrences(new CalDateTime(DateOnly.FromDateTime(from.AddDays(-31))))
                    .TakeWhile(o => o.Period.StartTime.Value < until.AddDays(1))
                    .Take(400))
                {
                    var (start, end) = (
                        LocalOf(occurrence.Period.StartTime, zone),
                        occurrence.Period.EffectiveEndTime is { } ends
                            ? LocalOf(ends, zone)
                            : LocalOf(occurrence.Period.StartTime, zone).AddDays(1));
                    if (end > from && start < until && start < end)
                        found.Add((
                            KeyOf(one.Uid, start),
                            string.IsNullOrWhiteSpace(one.Summary) ? "Closed" : one.Summary.Trim(),
                            new(start, end)));
                }
            if (found.Count > MostEvents)
                return new CalendarManyProblem(found.Count, MostEvents);
            var rows = await w.Db.Closures.Where(c => c.Refresh == refresh).ToDictionaryAsync(c => c.Key, cancel);
            var changed = false;
            foreach (var (key, name, at) in found)
            {
                if (!rows.TryGetValue(key, out var row))
                    w.Db.Closures.Add(rows[key] = row = new() { Refresh = refresh, Key = key, Name = "", At = "" });
                var before = WorldView.Seen(row);
                (row.Name, row.Site, row.At) = (name.Length > 100 ? name[..100] : name, site, at.ToString());
                changed |= before != WorldView.Seen(row);
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

    private static string KeyOf(string? uid, DateTime start)
    {
        var key = new string([.. (uid ?? "event").Where(c => char.IsAsciiLetterOrDigit(c) || c is '-' or '.' or '@')]);
        return $"{(key.Length > 45 ? key[..45] : key)} {start:yyyyMMdd}";
    }

    // A time without a zone, and a whole day, are local; any other is brought to the refresh's zone.
    private static DateTime LocalOf(CalDateTime at, TimeZoneInfo zone) =>
        !at.HasTime || at.IsFloating ? at.Value : TimeZoneInfo.ConvertTimeFromUtc(at.AsUtc, zone);
}
