using YardRelay.Files.Names;

namespace YardRelay.Carriage.Names;

/// <summary>
/// Finds names of one folder that some disk takes for one, in paths that come folder by folder, in memory for the folders on the way to
/// one path only.
/// </summary>
/// <param name="fold">The same for all names that are one to the disk, as <see cref="NameHash"/> has it.</param>
internal sealed class SiblingTwins(Func<string, ulong> fold)
{
    private readonly List<(string Name, HashSet<ulong> Siblings)> _way = [];

    /// <summary>Takes the next path, and says whether it, or a folder above it, is the twin of an earlier name.</summary>
    public bool IsTwin(string path)
    {
        var (isTwin, at) = (false, 0);
        for (var from = 0; from <= path.Length; at++)
        {
            var slash = path.IndexOf('/', from);
            var name = path.AsSpan()[from..(slash < 0 ? path.Length : slash)];
            from = slash < 0 ? path.Length + 1 : slash + 1;
            if (at < _way.Count && name.SequenceEqual(_way[at].Name)) continue;
            // Another one in this folder: those that were below the one before are over.
            if (at + 1 < _way.Count) _way.RemoveRange(at + 1, _way.Count - at - 1);
            if (at == _way.Count) _way.Add((name.ToString(), []));
            else _way[at] = (name.ToString(), _way[at].Siblings);
            isTwin |= !_way[at].Siblings.Add(fold(_way[at].Name));
        }
        if (at < _way.Count) _way.RemoveRange(at, _way.Count - at);
        return isTwin;
    }
}
