using System.Collections.Concurrent;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Checklists;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Checklists;

/// <summary>The templates that the product brings, one for each kind of swap.</summary>
internal static class BuiltInTemplates
{
    private const string Folder = "YardRelay.Service.Checklists.Templates.";

    public static readonly IReadOnlyList<string> Yaml = [.. typeof(BuiltInTemplates).Assembly.GetManifestResourceNames()
        .Where(n => n.StartsWith(Folder, StringComparison.Ordinal))
        .Order(StringComparer.Ordinal)
        .Select(Read)];

    private static string Read(string name)
    {
        using var stream = typeof(BuiltInTemplates).Assembly.GetManifestResourceStream(name)!;
        using var reader = new StreamReader(stream);
        return reader.ReadToEnd();
    }
}

/// <summary>Templates as numbered versions.</summary>
internal static class TemplateStore
{
    private const int MostKept = 200;
    private static readonly ConcurrentDictionary<string, ChecklistTemplate> Parsed = new(StringComparer.Ordinal);

    /// <summary>Adds a version, unless the newest says the same.</summary>
    /// <param name="since">The version that it was made from: nothing is added where there is a newer one. Null: whatever there is.</param>
    public static async Task<Result<TemplateSeen>> AddAsync(Change w, string yaml, CancellationToken cancel, int? since = null)
    {
        var read = TemplateReader.Read(yaml);
        if (!read.TryGet(out var template, out _)) return Result<TemplateSeen>.Failed(read.Problems);
        var newest = await w.Db.Templates.Where(t => t.Refresh == w.Refresh.Key && t.Name == template.Name)
            .OrderByDescending(t => t.Version)
            .FirstOrDefaultAsync(cancel);
        if (newest?.Yaml == yaml) return Seen(newest);
        if (since is { } seen && newest?.Version > seen) return new ChecklistNewerProblem(template.Name, newest.Version, seen);
        var row = new TemplateRow
        {
            Refresh = w.Refresh.Key,
            Name = template.Name,
            Version = (newest?.Version ?? 0) + 1,
            Yaml = yaml,
            Steps = template.Steps.Count,
            At = w.Now
        };
        w.Db.Templates.Add(row);
        w.Note(
            "checklist.version",
            null,
            $"Checklist {row.Name}, version {row.Version}, with {row.Steps} steps",
            new() { ["version"] = row.Version, ["sha256"] = Core.Ledger.LedgerChain.Digest(yaml) });
        return Seen(row);
    }

    public static TemplateSeen Seen(TemplateRow row) => new(row.Name, row.Version, row.Steps, row.Yaml, row.At, [.. Read(row.Yaml).Kinds]);

    /// <summary>A template that was taken once, and so is whole.</summary>
    public static ChecklistTemplate Read(string yaml)
    {
        if (Parsed.TryGetValue(yaml, out var known)) return known;
        if (Parsed.Count >= MostKept) Parsed.Clear();
        return Parsed[yaml] = TemplateReader.Read(yaml).Value;
    }

    private static readonly ConcurrentDictionary<(string?, string, string, int), ChecklistTemplate> Versions = new();

    /// <summary>The version that a swap keeps. A version never changes, so it is asked for once.</summary>
    public static async Task<ChecklistTemplate> GetAsync(YardDb db, SwapRow swap, CancellationToken cancel)
    {
        var key = (db.Database.GetConnectionString(), swap.Refresh, swap.Template, swap.TemplateVersion);
        if (Versions.TryGetValue(key, out var known)) return known;
        if (Versions.Count >= MostKept) Versions.Clear();
        return Versions[key] = Read(await db.Templates.AsNoTracking()
            .Where(t => t.Refresh == swap.Refresh && t.Name == swap.Template && t.Version == swap.TemplateVersion)
            .Select(t => t.Yaml)
            .FirstAsync(cancel));
    }

    /// <summary>A version of a template; null: there is none.</summary>
    /// <param name="version">Null: the newest.</param>
    public static Task<TemplateRow?> FindAsync(YardDb db, string refresh, string name, int? version, CancellationToken cancel) =>
        db.Templates.AsNoTracking()
            .Where(t => t.Refresh == refresh && t.Name == name && (version == null || t.Version == version))
            .OrderByDescending(t => t.Version)
            .FirstOrDefaultAsync(cancel);

    /// <summary>The newest version of each template of a refresh.</summary>
    public static async Task<IReadOnlyList<TemplateRow>> NewestAsync(YardDb db, string refresh, CancellationToken cancel) =>
        [.. (await db.Templates.AsNoTracking().Where(t => t.Refresh == refresh).OrderByDescending(t => t.Version).ToListAsync(cancel))
            .DistinctBy(t => t.Name)
            .OrderByDescending(t => t.At)];

    /// <summary>The template for a kind of swap: one that names the kind before one for all, a later one before an earlier one.</summary>
    public static TemplateRow For(IReadOnlyList<TemplateRow> newest, SwapKind kind) =>
        newest.FirstOrDefault(t => Read(t.Yaml).Kinds.Contains(kind)) ?? newest.FirstOrDefault(t => Read(t.Yaml).IsFor(kind)) ?? newest[0];
}
