using YardRelay.Core.Carrying.Inventories;

namespace YardRelay.Core.Carrying.CarryLists;

/// <summary>
/// What is carried before the rest: what people named first, in their order, then documents, then mail and settings, then pictures. Music,
/// films, downloads with their installers and clouds' folders come last, as far as there is room.
/// </summary>
public static class NeedOrder
{
    /// <summary>Most passes over a computer; what is named first beyond that goes together.</summary>
    public const int MostPasses = 6;

    private static readonly string[] Needed = ["Desktop", "Documents"];
    private static readonly string[] Wanted = ["Pictures"];
    private static readonly string[] Settings = [
        "Mail", ".config", ".thunderbird", ".mozilla", ".local/share", "AppData/Roaming", "AppData/Local", "Library/Mail",
        "Library/Application Support", "Library/Preferences", "Library/Accounts", "Library/Calendars"
    ];

    /// <summary>The passes that go before the last one, which takes all the rest.</summary>
    /// <param name="first">Paths that a carry list names first.</param>
    /// <param name="homes">The homes below what is carried.</param>
    /// <param name="folders">The folders people use in a home, by their path in it; see <see cref="UserFolders"/>.</param>
    /// <param name="isShort">Whether there is less room than data; else only what is named first is worth a pass of its own.</param>
    /// <returns>Each a list of paths below what is carried; none empty.</returns>
    public static IReadOnlyList<IReadOnlyList<string>> Passes(
        IReadOnlyList<string> first, IReadOnlyList<Home> homes, Func<Home, IReadOnlyDictionary<string, string>> folders, bool isShort)
    {
        var alone = isShort ? MostPasses - 3 : MostPasses;
        List<IReadOnlyList<string>> passes = [.. first.Take(alone - 1).Select(f => (IReadOnlyList<string>)[f])];
        if (first.Count >= alone) passes.Add([.. first.Skip(alone - 1)]);
        if (!isShort) return passes;
        string At(Home home, string path) => home.Path.Length == 0 ? path : $"{home.Path}/{path}";
        foreach (var pass in new[]
        {
            homes.SelectMany(h => folders(h).Where(f => Needed.Contains(f.Value)).Select(f => At(h, f.Key))),
            homes.SelectMany(h => Settings.Select(s => At(h, s))),
            homes.SelectMany(h => folders(h).Where(f => Wanted.Contains(f.Value)).Select(f => At(h, f.Key)))
        })
            if (pass.Distinct().Order(StringComparer.Ordinal).ToList() is { Count: > 0 } paths) passes.Add(paths);
        return passes;
    }
}
