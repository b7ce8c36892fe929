using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using YardRelay.Core;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Writing;

/// <summary>The one way in which a thing of the world is made, changed or taken out: the same again changes nothing.</summary>
internal static class WorldWrite
{
    /// <summary>Makes or changes a row.</summary>
    /// <param name="find">The row as it is; null: there is none.</param>
    /// <param name="set">Brings the row to what is wanted.</param>
    /// <param name="seen">The row as people see it; what is the same before and after was no change.</param>
    /// <param name="words">For the ledger.</param>
    public static async Task<Result<TSeen>> SetAsync<TRow, TSeen>(
        this Change w, string what, Task<TRow?> find, Func<TRow> make, Action<TRow> set, Func<TRow, TSeen> seen,
        Func<TSeen, string> words)
        where TRow : class
    {
        var row = await find;
        var before = row is null ? null : JsonSerializer.Serialize(seen(row));
        if (row is null) w.Db.Add(row = make());
        set(row);
        var after = seen(row);
        if (before == JsonSerializer.Serialize(after)) return after;
        w.WorldChanged();
        w.Note($"{what}.set", null, words(after));
        return after;
    }

    /// <summary>Takes a row out; one that is not there is out already.</summary>
    public static async Task<Results<NoContent, ProblemHttpResult>> DropAsync<TRow>(
        this Writer writer, string refresh, string what, Func<Change, Task<TRow?>> find, Func<TRow, string> name,
        CancellationToken cancel)
        where TRow : class
    {
        var done = await writer.WriteAsync<bool>(refresh, async w =>
        {
            if (await find(w) is not { } row) return false;
            w.Db.Remove(row);
            w.WorldChanged();
            w.Note($"{what}.dropped", null, $"{char.ToUpperInvariant(what[0])}{what[1..]} {name(row)} taken out");
            return true;
        }, cancel);
        return done.IsOk ? TypedResults.NoContent() : done.Problems.ToHttp();
    }

    /// <summary>A name that people read: 1 to 100 characters.</summary>
    public static Problem? NameFault(string what, string? name) =>
        string.IsNullOrWhiteSpace(name) || name.Length > 100 || name.Any(char.IsControl)
            ? new ThingName(what)
            : null;

    /// <summary>A key: 1 to 60 characters, no '/' and nothing that cannot be seen.</summary>
    public static Problem? KeyFault(string what, string key) =>
        key.Length is 0 or > 60 || key != key.Trim() || key.Any(c => char.IsControl(c) || c is '/' or '"')
            ? new ThingKey(what, key)
            : null;

    /// <summary>The faults among some checks.</summary>
    public static IReadOnlyList<Problem> Faults(params Problem?[] checks) => [.. checks.OfType<Problem>()];
}
