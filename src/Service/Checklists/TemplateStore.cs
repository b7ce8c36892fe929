using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Checklists;
using YardRelay.Records;

namespace YardRelay.Service.Checklists;

/// <summary>The template that the product brings.</summary>
internal static class BuiltInTemplate
{
    public static readonly string Yaml = Read();

    private static string Read()
    {
        using var stream = typeof(BuiltInTemplate).Assembly.GetManifestResourceStream("YardRelay.Service.Checklists.Templates.computer-swap.yaml")!;
        using var reader = new StreamReader(stream);
        return reader.ReadToEnd();
    }
}

/// <summary>Templates as numbered versions.</summary>
internal static class TemplateStore
{
    /// <summary>Adds a version, unless the newest says the same.</summary>
    public static async Task<Result<TemplateSeen>> AddAsync(Writing.Writing w, string yaml, CancellationToken cancel)
    {
        if (!TemplateReader.Read(yaml).TryGet(out var template, out _)) return Result<TemplateSeen>.Failed(TemplateReader.Read(yaml).Problems);
        var newest = await w.Db.Templates.Where(t => t.Refresh == w.Refresh.Key && t.Name == template.Name).OrderByDescending(t => t.Version).FirstOrDefaultAsync(cancel);
        if (newest?.Yaml == yaml) return Seen(newest);
        var row = new TemplateRow { Refresh = w.Refresh.Key, Name = template.Name, Version = (newest?.Version ?? 0) + 1, Yaml = yaml, Steps = template.Steps.Count, At = w.Now };
        w.Db.Templates.Add(row);
        w.Note("checklist.version", null, $"Checklist {row.Name}, version {row.Version}, with {row.Steps} steps", new() { ["version"] = row.Version, ["sha256"] = Core.Ledger.LedgerChain.Digest(yaml) });
        return Seen(row);
    }

    public static TemplateSeen Seen(TemplateRow row) => new(row.Name, row.Version, row.Steps, row.Yaml, row.At);

    public static async Task<ChecklistTemplate> GetAsync(YardDb db, SwapRow swap, CancellationToken cancel)
    {
        var yaml = await db.Templates.AsNoTracking().Where(t => t.Refresh == swap.Refresh && t.Name == swap.Template && t.Version == swap.TemplateVersion).Select(t => t.Yaml).FirstAsync(cancel);
        return TemplateReader.Read(yaml).Value;
    }
}
