using YardRelay.Contracts;
using YardRelay.Core;

namespace YardRelay.Line.Verbs;

/// <summary>Lists that come page by page.</summary>
internal static class Pages
{
    /// <summary>All pages, one after the other; the problem of the first that is refused.</summary>
    /// <param name="page">Asks for the page at a cursor; null: the first.</param>
    public static async Task<Result<List<T>>> AllAsync<T>(Func<string?, Task<Result<Page<T>>>> page)
    {
        var all = new List<T>();
        for (string? cursor = null; ;)
        {
            if (!(await page(cursor)).TryGet(out var one, out var problem)) return problem;
            all.AddRange(one.Items);
            if ((cursor = one.Next) is null) return all;
        }
    }
}
