using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Microsoft.OpenApi;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Roster;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Problems;
using YardRelay.Service.Swaps;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Rosters;

/// <summary>Takes a roster into a refresh: all of it in one transaction, or nothing.</summary>
internal static class RosterEndpoint
{
    private const int MostBytes = 16 << 20;

    public static void Map(IEndpointRouteBuilder routes) =>
        routes.MapPost("/refreshes/{refresh}/roster", HandleAsync).RequireAuthorization(Roles.Leads).WithName("TakeRoster").WithSummary("Takes a roster (text/csv). dryRun=true only shows what would change.").AddOpenApiOperationTransformer((operation, _, _) =>
        {
            // Only described, not demanded: a wrong content type must meet the sign-in first.
            operation.RequestBody = new OpenApiRequestBody { Required = true, Content = new Dictionary<string, OpenApiMediaType> { ["text/csv"] = new() { Schema = new OpenApiSchema { Type = JsonSchemaType.String } } } };
            return Task.CompletedTask;
        });

    private static async Task<Results<Ok<RosterTaken>, ProblemHttpResult>> HandleAsync(string refresh, HttpRequest request, Writer writer, bool dryRun = false, CancellationToken cancel = default)
    {
        if (request.ContentLength > MostBytes) return new Problem[] { new("roster.size", "A roster has at most 16 MB.") }.ToHttp();
        using var file = new MemoryStream();
        var buffer = new byte[64 * 1024];
        while (await request.Body.ReadAsync(buffer, cancel) is > 0 and var got)
        {
            if (file.Length + got > MostBytes) return new Problem[] { new("roster.size", "A roster has at most 16 MB.") }.ToHttp();
            file.Write(buffer, 0, got);
        }
        var read = RosterReader.Read(RosterText.Decode(file.GetBuffer().AsSpan(0, (int)file.Length)));
        if (!read.IsOk) return read.Problems.ToHttp();
        var taken = await writer.WriteAsync<RosterTaken>(refresh, w => TakeAsync(w, read.Value, dryRun, cancel), cancel);
        return taken.Problems.FirstOrDefault() is DryRun dry ? TypedResults.Ok(dry.Taken) : taken.ToHttp();
    }

    /// <summary>Carries the outcome of a dry run out of a transaction that is not committed.</summary>
    private sealed record DryRun(RosterTaken Taken) : Problem("roster.dry-run", "Nothing was taken.");

    private static async Task<Result<RosterTaken>> TakeAsync(Writing.Writing w, IReadOnlyList<RosterRow> rows, bool dryRun, CancellationToken cancel)
    {
        var refresh = w.Refresh.Key;
        var sites = await w.Db.Sites.Where(s => s.Refresh == refresh).Select(s => s.Key).ToListAsync(cancel);
        var faults = new List<Problem>();
        if (sites.Count > 0)
            foreach (var row in rows.Where(r => !sites.Contains(r.Site)))
                faults.Add(new RosterFault(row.Line, "site", row.Site, $"this site is not in refresh '{refresh}'.", $"It has {string.Join(", ", sites.Order())}."));
        var swaps = await w.Db.Swaps.Where(s => s.Refresh == refresh).ToDictionaryAsync(s => s.RosterKey, cancel);
        var people = await w.Db.People.Where(p => p.Refresh == refresh).ToDictionaryAsync(p => p.Key, cancel);
        foreach (var row in rows.Where(r => r.Receiver is not null && r.Receiver != r.Person && !people.ContainsKey(r.Receiver) && rows.All(o => o.Person != r.Receiver)))
            faults.Add(new RosterFault(row.Line, "receiver", row.Receiver!, "nobody with this key is in the roster or the refresh.", "Add that person, or correct the key."));
        var tags = swaps.Values.SelectMany(s => new[] { (Tag: s.OldTag, s.RosterKey), (Tag: s.NewTag, s.RosterKey) }).Where(t => t.Tag is not null).ToLookup(t => t.Tag!, t => t.RosterKey, StringComparer.OrdinalIgnoreCase);
        foreach (var row in rows)
            foreach (var (column, tag) in new[] { ("old_tag", row.OldTag), ("new_tag", row.NewTag) })
                if (tag is not null && tags[tag].FirstOrDefault(k => k != row.Key && !rows.Any(r => r.Key == k)) is { } other) faults.Add(new RosterFault(row.Line, column, tag, $"the refresh has this computer already, in the swap {swaps[other].Id}.", "Correct the tag, or take that swap out first."));
        if (faults.Count > 0) return Result<RosterTaken>.Failed([.. faults.OfType<RosterFault>().OrderBy(f => f.Line)]);

        foreach (var site in rows.Select(r => r.Site).Distinct().Except(sites).ToList()) w.Db.Sites.Add(new() { Refresh = refresh, Key = site, Name = site, Benches = 2 });
        var template = await w.Db.Templates.Where(t => t.Refresh == refresh).OrderByDescending(t => t.At).ThenByDescending(t => t.Version).FirstAsync(cancel);
        var changes = new List<RosterChange>();
        foreach (var row in rows)
        {
            if (!people.TryGetValue(row.Person, out var person)) w.Db.People.Add(people[row.Person] = person = new() { Refresh = refresh, Key = row.Person, Name = row.Name });
            (person.Name, person.Mail, person.Department) = (row.Name, row.Mail, row.Department);
            if (!swaps.TryGetValue(row.Key, out var swap))
            {
                swap = new()
                {
                    Id = $"{refresh}-{++w.Refresh.LastSwap:0000}",
                    Refresh = refresh,
                    RosterKey = row.Key,
                    Person = row.Person,
                    Name = row.Name,
                    Site = row.Site,
                    Free = [],
                    Template = template.Name,
                    TemplateVersion = template.Version,
                };
                Set(swap, row);
                w.Db.Swaps.Add(swap);
                swaps[row.Key] = swap;
                w.Note("swap.made", swap.Id, $"Swap for {row.Name} made from the roster");
                changes.Add(new(swap.Id, row.Name, "added", $"{row.Kind.ToString().ToLowerInvariant()}, {row.Site}, {row.OldTag} → {row.NewTag}".TrimEnd(' ', '→')));
                continue;
            }
            var before = Describe(swap);
            if (swap.Kind != row.Kind && SwapFacts.HasBegun(swap)) faults.Add(new RosterFault(row.Line, "kind", row.Kind.ToString().ToLowerInvariant(), $"swap {swap.Id} is under way as {swap.Kind.ToString().ToLowerInvariant()}.", "Finish or call off that swap first."));
            Set(swap, row);
            if (before == Describe(swap)) continue;
            w.Note("swap.changed", swap.Id, $"Roster changed the swap of {row.Name}: {Describe(swap)}");
            changes.Add(new(swap.Id, row.Name, "changed", $"was {before}; is {Describe(swap)}"));
        }
        if (faults.Count > 0) return Result<RosterTaken>.Failed(faults);
        var (added, changed) = (changes.Count(c => c.Change == "added"), changes.Count(c => c.Change == "changed"));
        if (added + changed > 0) w.Note("roster.taken", null, $"Roster of {rows.Count} rows taken: {added} added, {changed} changed", new() { ["rows"] = rows.Count, ["added"] = added, ["changed"] = changed });
        var taken = new RosterTaken(dryRun, rows.Count, added, changed, rows.Count - added - changed, changes);
        return dryRun ? new DryRun(taken) : taken;
    }

    private static void Set(SwapRow swap, RosterRow row)
    {
        (swap.Name, swap.Site, swap.Room, swap.Kind, swap.OldTag, swap.OldModel) = (row.Name, row.Site, row.Room, row.Kind, row.OldTag, row.OldModel);
        (swap.NewTag, swap.NewModel, swap.Receiver) = (row.Kind == SwapKind.Reimage ? row.NewTag ?? row.OldTag : row.NewTag, row.NewModel, row.Receiver);
        var free = row.Free.Select(f => f.ToString()).ToList();
        if (!swap.Free.SequenceEqual(free)) swap.Free = free;
    }

    private static string Describe(SwapRow s) => $"{s.Name}, {s.Kind.ToString().ToLowerInvariant()}, {s.Site}{(s.Room is null ? "" : " " + s.Room)}, {s.OldTag} → {s.NewTag}{(s.Receiver is null ? "" : ", for " + s.Receiver)}{(s.Free.Count == 0 ? "" : ", free " + string.Join("; ", s.Free))}";
}
