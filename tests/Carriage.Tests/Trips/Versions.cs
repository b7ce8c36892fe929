using System.Text;
using YardRelay.Carriage.Names;
using YardRelay.Carriage.Trips;

namespace YardRelay.Carriage.Tests.Trips;

/// <summary>
/// What stood at a source since the last trip that brought all of it: the plain model that a restore of a parcel whose last trip broke off
/// is held against.
/// </summary>
internal sealed class Versions
{
    private readonly List<Dictionary<string, string>> _states = [];

    // The first of the states is what a trip called whole.
    private bool _hasWhole;

    /// <summary>A trip brought all of it.</summary>
    public void Whole(Dictionary<string, string> state)
    {
        _states.Clear();
        _states.Add(state);
        _hasWhole = true;
    }

    /// <summary>The source stands so now.</summary>
    public void Add(Dictionary<string, string> state) => _states.Add(state);

    /// <summary>Whether nothing need be there.</summary>
    public bool MayBeNothing => !_hasWhole;

    /// <summary>
    /// What is wrong with a restore: each path is as the last whole trip left it or as it stood later, and what is neither is named.
    /// </summary>
    public IEnumerable<string> Wrong(Dictionary<string, string> found, RestoreReport report)
    {
        var named = (report.Unfinished?.UnsurePaths ?? []).ToHashSet(StringComparer.Ordinal);
        var beside = report.Beside.Select(b => b.As).ToHashSet(StringComparer.Ordinal);
        foreach (var (path, content) in _hasWhole ? _states[0] : [])
            if (!_states.Exists(s => s.GetValueOrDefault(path) == found.GetValueOrDefault(path)) && !IsBeside(path))
                yield return $"{path} was {content}, and is {found.GetValueOrDefault(path, "nothing")}";
        foreach (var (path, content) in found)
            if (content != "folder"
                && !named.Contains(Shown(path))
                && !path.Split('/').Select(Shown).Any(beside.Contains)
                && !_states.Exists(s => s.GetValueOrDefault(path) == content))
                yield return $"{path} is {content}, which it never was, and nothing says so";

        // What made way for something of which nobody can be sure stands beside it, as the whole trip left it or as it stood later.
        bool IsBeside(string path) =>
            named.Contains(Shown(path)) && report.Beside.Any(b =>
                b.Path == Shown(path)
                && found.GetValueOrDefault(Beside(path, b.As)) is { } content
                && _states.Exists(s => s.GetValueOrDefault(path) == content));
    }

    private static string Beside(string path, string name) =>
        path[..(path.LastIndexOf('/') + 1)] + Encoding.UTF8.GetString(PercentText.TryDecode(name)!);

    private static string Shown(string path) => PercentText.Encode(Encoding.UTF8.GetBytes(path));
}
