using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Roster;
using YardRelay.Records;
using YardRelay.Service.Checklists;
using YardRelay.Service.Facts;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Rosters;

/// <summary>How a roster is taken.</summary>
/// <param name="DryRun">Only look.</param>
/// <param name="SkipFaulty">Take the good rows and leave the others; else one bad row stops all.</param>
/// <param name="DropGone">Take swaps out that are not in this roster and have not begun.</param>
internal sealed record TakingOptions(bool DryRun, bool SkipFaulty, bool DropGone);

/// <summary>What was there before a taking: enough to bring it back.</summary>
internal sealed record BeforeTaking(
    IReadOnlyList<string> Added,
    IReadOnlyDictionary<string, RosterFields> Changed,
    IReadOnlyList<SwapRow> Dropped,
    IReadOnlyList<PersonRow> People,
    IReadOnlyList<string> NewPeople,
    IReadOnlyList<string> NewSites);

/// <summary>Takes a roster into a refresh: in one transaction, and so that it can be undone.</summary>
internal static class RosterTaker
{
    private const int MostShown = 1000;

    /// <summary>Carries the outcome of a dry run out of a transaction that is not committed.</summary>
    public sealed record DryRun(RosterTaken Taken) : Problem("roster.dry-run", "Nothing was taken.");

    public static async Task<Result<RosterTaken>> TakeAsync(
        Change w, RosterReading reading, IReadOnlyList<ColumnMatch> columns, TakingOptions options, RosterDesk.Reading seen,
        CancellationToken cancel)
    {
        var refresh = w.Refresh.Key;
        var sites = (await w.Db.Sites.Where(s => s.Refresh == refresh).Select(s => s.Key).ToListAsync(cancel)).ToHashSet();
        var swaps = await w.Db.Swaps.Where(s => s.Refresh == refresh).ToDictionaryAsync(s => s.RosterKey, cancel);
        var people = await w.Db.People.Where(p => p.Refresh == refresh).ToDictionaryAsync(p => p.Key, cancel);
        reading = RosterPeople.Named(reading, Known(people.Values, swaps.Values), people.Keys);
        var waves = (await w.Db.Waves.Where(v => v.Refresh == refresh).Select(v => v.Key).ToListAsync(cancel)).ToHashSet();
        List<RosterFault> faults = [.. reading.Faults, .. Against(reading.Rows, refresh, sites, swaps, people, waves)];
        if (faults.Count > 0 && !options.SkipFaulty && !options.DryRun) return Result<RosterTaken>.Failed([.. faults.OrderBy(f => f.Line)]);
        var bad = faults.SelectMany(f => f.Lines ?? [f.Line]).ToHashSet();
        var rows = reading.Rows.Where(r => !bad.Contains(r.Line)).ToList();
        if (rows.Count == 0 && faults.Count > 0 && !options.DryRun) return Result<RosterTaken>.Failed([.. faults.OrderBy(f => f.Line)]);

        var newSites = rows.Select(r => r.Site).Distinct().Except(sites).ToList();
        foreach (var site in newSites) w.Db.Sites.Add(new() { Refresh = refresh, Key = site, Name = site, Benches = 2 });
        var templates = await TemplateStore.NewestAsync(w.Db, refresh, cancel);
        var (changes, added, changed, dropped) = (
            new List<RosterChange>(), new List<string>(), new Dictionary<string, RosterFields>(), new List<SwapRow>());
        var otherwise = await WentOtherwise.ReadAsync(w.Db, refresh, cancel);
        var (oldPeople, newPeople) = (new List<PersonRow>(), new List<string>());
        var compared = 0;
        foreach (var row in rows)
        {
            seen.At("comparing", ++compared);
            if (!people.TryGetValue(row.Person, out var person))
            {
                newPeople.Add(row.Person);
                w.Db.People.Add(people[row.Person] = person = new() { Refresh = refresh, Key = row.Person, Name = row.Name });
            }
            else if ((person.Name, person.Mail, person.Department, person.Role) != (row.Name, row.Mail, row.Department, row.Role))
                oldPeople.Add(new()
                {
                    Refresh = refresh,
                    Key = person.Key,
                    Name = person.Name,
                    Mail = person.Mail,
                    Department = person.Department,
                    Role = person.Role
                });
            (person.Name, person.Mail, person.Department, person.Role) = (row.Name, row.Mail, row.Department, row.Role);
            if (!swaps.TryGetValue(row.Key, out var swap))
            {
                var template = TemplateStore.For(templates, row.Kind);
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
                    TemplateVersion = template.Version
                };
                RosterFields.Of(row, null).Into(swap);
                w.Db.Swaps.Add(swaps[row.Key] = swap);
                w.Note("swap.made", swap.Id, $"Swap for {row.Name} made from the roster");
                added.Add(swap.Id);
                changes.Add(new(
                    swap.Id,
                    row.Name,
                    "added",
                    $"{row.Kind.ToString().ToLowerInvariant()}, {row.Site}, {row.OldTag} → {row.NewTag}".TrimEnd(' ', '→')));
                continue;
            }
            var (before, after) = (RosterFields.Of(swap), RosterFields.Of(row, swap));
            after = otherwise.Keep(swap.Id, before, after);
            if (before.SameAs(after)) continue;
            changed[swap.Id] = before with { Accounts = [.. before.Accounts], Free = [.. before.Free], Preferred = [.. before.Preferred] };
            after.Into(swap);
            if (before.Kind != after.Kind && swap.ChecklistVersion == 0 && TemplateStore.For(templates, row.Kind) is var fitting)
                (swap.Template, swap.TemplateVersion) = (fitting.Name, fitting.Version);
            w.Note("swap.changed", swap.Id, $"Roster changed the swap of {row.Name}: {after}");
            changes.Add(new(swap.Id, row.Name, "changed", $"was {before}; is {after}"));
        }
        var inRoster = rows.Select(r => r.Key).Concat(faults.Count > 0 ? reading.Rows.Select(r => r.Key) : []).ToHashSet();
        var gone = swaps.Where(s => !inRoster.Contains(s.Key) && !added.Contains(s.Value.Id))
            .Select(s => s.Value)
            .OrderBy(s => s.Id, StringComparer.Ordinal).ToList();
        foreach (var swap in gone)
        {
            var stays = SwapFacts.HasBegun(swap) || swap.Start is not null
                ? $"its swap {(SwapFacts.HasBegun(swap) ? "is under way" : "has an appointment")} and is kept"
                : options.DropGone
                ? null
                : "not in this file; left alone";
            changes.Add(new(swap.Id, swap.Name, "gone", stays ?? "taken out: not in this file, and not begun"));
            if (stays is not null || !options.DropGone) continue;
            dropped.Add(swap);
            w.Db.Swaps.Remove(swap);
            w.Note("swap.dropped", swap.Id, $"The swap of {swap.Name} is not in the roster any more, and is taken out");
        }
        var taken = new RosterTaken(options.DryRun, 0, reading.Rows.Count
            + reading.Faults.SelectMany(f => f.Lines ?? [f.Line])
                .Where(l => l > 1).Distinct()
                .Count(l => reading.Rows.All(r =>
                    r.Line != l)), added.Count, changed.Count, rows.Count - added.Count - changed.Count, gone.Count,
            [.. changes.OrderBy(c => c.Change == "gone").Take(MostShown)],
            [.. faults.OrderBy(f => f.Line).Take(MostShown).Select(f => new RosterRejected(f.Line, f.Column, f.Value, f.Reason, f.Remedy))],
            columns);
        if (options.DryRun) return new DryRun(taken);
        seen.At("saving", 0);
        if (added.Count + changed.Count + dropped.Count + oldPeople.Count == 0) return taken;
        var number = (await w.Db.Takings.Where(t => t.Refresh == refresh).MaxAsync(t => (int?)t.Number, cancel) ?? 0) + 1;
        w.Db.Takings.Add(new()
        {
            Refresh = refresh,
            Number = number,
            By = w.By,
            At = w.Now,
            Added = added.Count,
            Changed = changed.Count,
            Before = JsonSerializer.Serialize(new BeforeTaking(added, changed, dropped, oldPeople, newPeople, newSites))
        });
        w.WorldChanged();
        w.Note(
            "roster.taken",
            null,
            $"Roster of {rows.Count} rows taken: {added.Count} added, {changed.Count} changed"
                + $"{(dropped.Count > 0 ? $", {dropped.Count} taken out" : "")}",
            new() { ["rows"] = rows.Count, ["added"] = added.Count, ["changed"] = changed.Count, ["dropped"] = dropped.Count });
        return taken with { Number = number };
    }

    private static IEnumerable<KnownPerson> Known(IEnumerable<PersonRow> people, IEnumerable<SwapRow> swaps)
    {
        var tags = swaps.SelectMany(s => new[] { (s.Person, Tag: s.OldTag), (s.Person, Tag: s.NewTag) })
            .ToLookup(s => s.Person, s => s.Tag);
        return people.Where(p => p.ErasedAt is null)
            .Select(p => new KnownPerson(p.Key, p.Name, p.Mail, [.. tags[p.Key].OfType<string>()]));
    }

    /// <summary>What is wrong with rows that are good by themselves, against what the refresh has.</summary>
    private static IEnumerable<RosterFault> Against(
        IReadOnlyList<RosterRow> rows, string refresh, HashSet<string> sites, Dictionary<string, SwapRow> swaps,
        Dictionary<string, PersonRow> people, HashSet<string> waves)
    {
        var (keys, persons) = (rows.Select(r => r.Key).ToHashSet(), rows.Select(r => r.Person).ToHashSet());
        var tags = swaps.Values.SelectMany(s => new[] { (Tag: s.OldTag, s.RosterKey), (Tag: s.NewTag, s.RosterKey) })
            .Where(t => t.Tag is not null)
            .ToLookup(t => t.Tag!, t => t.RosterKey, StringComparer.OrdinalIgnoreCase);
        foreach (var row in rows)
        {
            if (sites.Count > 0 && !sites.Contains(row.Site))
                yield return new(
                    row.Line, "site", row.Site, $"this site is not in refresh '{refresh}'.", $"It has {string.Join(", ", sites.Order())}.");
            if (row.Receiver is { } receiver && receiver != row.Person && !people.ContainsKey(receiver) && !persons.Contains(receiver))
                yield return new(
                    row.Line,
                    "receiver",
                    receiver,
                    "nobody with this key is in the roster or the refresh.",
                    "Add that person, or correct the key.");
            if (row.Wave is { } wave && !waves.Contains(wave))
                yield return new(
                    row.Line,
                    "wave",
                    wave,
                    $"refresh '{refresh}' has no such wave.",
                    waves.Count == 0 ? "Make it first, with 'yardline wave set'." : $"It has {string.Join(", ", waves.Order())}.");
            foreach (var (column, tag) in new[] { ("old_tag", row.OldTag), ("new_tag", row.NewTag) })
                if (tag is not null && tags[tag].FirstOrDefault(k => k != row.Key && !keys.Contains(k)) is { } other)
                    yield return new(
                        row.Line,
                        column,
                        tag,
                        $"the refresh has this computer already, in the swap {swaps[other].Id}.",
                        "Correct the tag, or take that swap out first.");
            if (swaps.TryGetValue(row.Key, out var swap) && swap.Kind != row.Kind && SwapFacts.HasBegun(swap))
                yield return new(
                    row.Line,
                    "kind",
                    row.Kind.ToString().ToLowerInvariant(),
                    $"swap {swap.Id} is under way as {swap.Kind.ToString().ToLowerInvariant()}.",
                    "Finish or call off that swap first.");
        }
    }

    /// <summary>Why a taking cannot be undone any more; null: it can.</summary>
    public static async Task<string?> WhyNotUndoneAsync(YardDb db, TakingRow taking, CancellationToken cancel)
    {
        if (taking.UndoneAt is not null) return "it was undone already";
        if (await db.Takings.AnyAsync(t => t.Refresh == taking.Refresh && t.Number > taking.Number && t.UndoneAt == null, cancel))
            return "a roster was taken after it; undo that one first";
        var before = JsonSerializer.Deserialize<BeforeTaking>(taking.Before)!;
        var (added, touched) = (before.Added.ToHashSet(), before.Added.Concat(before.Changed.Keys).ToHashSet());
        foreach (var swap in (await db.Swaps.AsNoTracking().Where(s => s.Refresh == taking.Refresh).ToListAsync(cancel))
            .Where(s => touched.Contains(s.Id)))
        {
            if (SwapFacts.HasBegun(swap)) return $"the swap of {swap.Name} has begun";
            if (added.Contains(swap.Id) && swap.Start is not null) return $"{swap.Name} has an appointment";
        }
        var orders = await db.Orders.Where(o => o.Refresh == taking.Refresh).Select(o => o.Swap).Distinct().ToListAsync(cancel);
        var steps = await db.Steps.Where(s => db.Swaps.Any(w => w.Id == s.Swap && w.Refresh == taking.Refresh))
            .Select(s => s.Swap).Distinct()
            .ToListAsync(cancel);
        return orders.Concat(steps).FirstOrDefault(added.Contains) is { } built ? $"something was done for {built} already" : null;
    }

    public static async Task<Result<TakingSeen>> UndoAsync(Change w, int number, CancellationToken cancel)
    {
        var refresh = w.Refresh.Key;
        if (await w.Db.Takings.FirstOrDefaultAsync(t => t.Refresh == refresh && t.Number == number, cancel) is not { } taking)
            return ServiceProblem.NotFound("taking", $"{number}");
        if (taking.UndoneAt is null && await WhyNotUndoneAsync(w.Db, taking, cancel) is { } why)
            return new RosterBuiltOnProblem(number, why);
        if (taking.UndoneAt is not null) return Seen(taking, null);
        var before = JsonSerializer.Deserialize<BeforeTaking>(taking.Before)!;
        var swaps = await w.Db.Swaps.Where(s => s.Refresh == refresh).ToDictionaryAsync(s => s.Id, cancel);
        foreach (var id in before.Added.Where(swaps.ContainsKey)) w.Db.Swaps.Remove(swaps[id]);
        foreach (var (id, fields) in before.Changed.Where(c => swaps.ContainsKey(c.Key))) fields.Into(swaps[id]);
        w.Db.Swaps.AddRange(before.Dropped);
        foreach (var person in await w.Db.People.Where(p => p.Refresh == refresh).ToListAsync(cancel))
        {
            if (before.NewPeople.Contains(person.Key)) w.Db.People.Remove(person);
            else if (before.People.FirstOrDefault(p => p.Key == person.Key) is { } was)
                (person.Name, person.Mail, person.Department, person.Role) = (was.Name, was.Mail, was.Department, was.Role);
        }
        var used = swaps.Values.Where(s => !before.Added.Contains(s.Id))
            .Select(s => s.Site)
            .Concat((await w.Db.Technicians.Where(t => t.Refresh == refresh).ToListAsync(cancel)).SelectMany(t => t.Sites)).ToHashSet();
        w.Db.Sites.RemoveRange((await w.Db.Sites.Where(s => s.Refresh == refresh).ToListAsync(cancel))
            .Where(s => before.NewSites.Contains(s.Key) && !used.Contains(s.Key)));
        taking.UndoneAt = w.Now;
        w.WorldChanged();
        w.Note(
            "roster.undone",
            null,
            $"Taking {number} of a roster undone: {taking.Added} taken out, {taking.Changed} as before",
            new() { ["taking"] = number });
        return Seen(taking, "it was undone already");
    }

    public static TakingSeen Seen(TakingRow t, string? why) => new(t.Number, t.By, t.At, t.Added, t.Changed, why);
}
