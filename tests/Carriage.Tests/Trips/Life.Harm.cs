using System.Text;
using YardRelay.Carriage.Parcels;
using YardRelay.Files.Simulated;

namespace YardRelay.Carriage.Tests.Trips;

/// <content>What befalls files where they lie: damage in the depot, and programs that write without a trace at the source.</content>
internal sealed partial class Life
{
    private readonly List<(string Path, SimulatedMap Map)> _maps = [];

    // A list that was written anew since is damaged no more.
    private bool IsDamaged => _damaged is { } d
        && Files(_depot.At("/depot/ida"), "").Any(f => f.Path == d.Path)
        && Content(d.Path).SequenceEqual(d.Content);

    private void Damage(LifeStep step)
    {
        var random = step.Chance(seed, "damage");
        if (_promised is null || IsDamaged || _isEnding) return;
        var files = Files(_depot.At("/depot/ida"), "").Where(f => f.Bytes > 0).Select(f => f.Path)
            .Where(p => !ParcelPaths.IsPassing(p) && !NotMended.Any(n => p.StartsWith(n, StringComparison.Ordinal))).ToList();
        var path = files[random.Next(files.Count)];
        using var top = _depot.At("/depot/ida").Open();
        using (var file = top.OpenFileAt(Encoding.UTF8.GetBytes(path), FileUse.Write))
        {
            var bytes = file.Facts().Bytes;
            var at = random.NextInt64(bytes);
            switch (random.Next(3))
            {
                case 0:
                    var one = new byte[1];
                    file.Read(at, one);
                    // What a line says of times and attributes of what was deleted at the source, nothing else can confirm.
                    var bit = IsOfGone(path, at) ? 7 : random.Next(8);
                    file.Write(at, [(byte)(one[0] ^ (1 << bit))]);
                    break;
                case 1:
                    file.SetLength(at);
                    break;
                default:
                    file.SetLength(0);
                    break;
            }
        }
        _depot.Settle();
        _damaged = (path, Content(path));
        _wasDamaged = _isDoubtful = true;
        Note(step, $"damage {path}");
    }

    private bool IsOfGone(string path, long at)
    {
        if (path != "yard/entries.jsonl") return false;
        var list = Content(path);
        var (from, to) = (Array.LastIndexOf(list, (byte)'\n', (int)at) + 1, Array.IndexOf(list, (byte)'\n', (int)at));
        return list.AsSpan(from, Math.Max(0, to - from)).IndexOf("goneSince"u8) >= 0;
    }

    // What the person does meanwhile, told of each call of the command that runs.
    private Func<SimulatedCall, bool>? _meanwhile;

    /// <summary>
    /// A closing trip while the person goes on working, up to the moment at which it begins to look once more: what it calls whole is what
    /// stands then.
    /// </summary>
    private void Close(LifeStep step)
    {
        var random = step.Chance(seed, "meanwhile");
        var edits = new SourceEdits(_old.At("/home"), random);
        // Which look is under way says the sync that each begins with: where calls fail it may not be made, and nothing is done meanwhile.
        var (calls, looks, left, isEditing) = (0, 0, step.Ill is Ill.Once or Ill.Often ? 0 : random.Next(5), false);
        _meanwhile = call =>
        {
            if (isEditing || !call.Path.StartsWith("/home", StringComparison.Ordinal)) return isEditing;
            if (call is { What: "sync", Path: "/home" }) looks++;
            calls++;
            if (looks != 1 || left == 0 || random.Next(20) > 0) return false;
            (left, isEditing) = (left - 1, true);
            // The person's computer does what they do, whatever befalls the trip.
            var room = _old.Bytes;
            (_old.Remembers, _old.Bytes) = (TimeSpan.Zero, 1L << 40);
            Note(step, $"at call {calls}: {edits.Once()}");
            _versions.Add(Seen.Contents(_old.At("/home")));
            (_old.Remembers, _old.Bytes) = (_remembers, room);
            return isEditing = false;
        };
        Carry(step, isClosing: true);
        _meanwhile = null;
    }

    private void WriteInMemory(LifeStep step)
    {
        var random = step.Chance(seed, "memory");
        var files = Files(_old.At("/home"), "").Where(f => f.Bytes > 0).ToList();
        if (files.Count > 0 && (_maps.Count == 0 || random.Next(3) == 0))
        {
            var path = files[random.Next(files.Count)].Path;
            _maps.Add((path, _old.TryMap("/home/" + path)!));
        }
        for (var left = random.Next(1, 4); left > 0 && _maps.Count > 0; left--)
        {
            var (path, map) = _maps[random.Next(_maps.Count)];
            var done = map.Write(random.Next(random.Next(2) == 0 ? 20 : 5000), (byte)random.Next(256));
            Note(step, done ? $"write in memory to what was {path}" : $"{path} does not reach so far");
        }
        _versions.Add(Seen.Contents(_old.At("/home")));
    }

    private byte[] Content(string path)
    {
        using var top = _depot.At("/depot/ida").Open();
        using var file = top.OpenFileAt(Encoding.UTF8.GetBytes(path), FileUse.Read);
        using var content = new FileReadStream(file, file.Facts().Bytes, leaveOpen: true);
        using var into = new MemoryStream();
        content.CopyTo(into);
        return into.ToArray();
    }

    private static IEnumerable<(string Path, long Bytes)> Files(TreeRoot root, string at)
    {
        using var folder = (root with { Path = root.Path + at }).Open();
        foreach (var name in folder.Names())
        {
            var (facts, path) = (folder.TryFacts(name, out _)!.Value, at + "/" + Encoding.UTF8.GetString(name));
            if (facts.Kind == NodeKind.File) yield return (path[1..], facts.Bytes);
            if (facts.Kind == NodeKind.Folder)
                foreach (var below in Files(root, path)) yield return below;
        }
    }
}
