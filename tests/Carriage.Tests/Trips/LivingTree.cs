using System.Text;

namespace YardRelay.Carriage.Tests.Trips;

/// <summary>A tree that is worked in between trips: every change that a person or a program can make to it, drawn from a seed.</summary>
internal sealed class LivingTree(string root, int seed)
{
    private readonly Random _random = new(seed);
    private readonly List<string> _done = [];
    private int _names;

    /// <summary>What was done so far, for the message of a test that fails.</summary>
    public string Story => string.Join("; ", _done).Replace(root + "/", "", StringComparison.Ordinal);

    /// <summary>Adds a line to the story.</summary>
    public void Note(string line) => _done.Add(line);

    /// <summary>Makes so many changes.</summary>
    public void Change(int times)
    {
        for (var i = 0; i < times; i++) _done.Add(ChangeOnce());
    }

    private string[] Files =>
        Directory.GetFiles(root, "*", new EnumerationOptions
        {
            RecurseSubdirectories = true,
            AttributesToSkip = FileAttributes.ReparsePoint
        });

    private string[] Folders =>
        [
            root,
            .. Directory.GetDirectories(root, "*", new EnumerationOptions
            {
                RecurseSubdirectories = true, AttributesToSkip = FileAttributes.ReparsePoint
            })
        ];

    private T Any<T>(T[] of) => of[_random.Next(of.Length)];

    private string NewName()
    {
        var odd = _random.Next(6) switch { 0 => " spaced", 1 => "=3D", 2 => "%41", 3 => "ü", 4 => "CON", _ => "" };
        return Path.Combine(Any(Folders), $"n{_names++}{odd}");
    }

    private string ChangeOnce()
    {
        var files = Files;
        switch (files.Length < 5 ? 0 : _random.Next(16))
        {
            case 0 or 1 or 2:
                var made = NewName();
                File.WriteAllBytes(made, Content());
                return $"make {made}";
            case 3:
                var grown = Any(files);
                File.AppendAllText(grown, "more");
                return $"append to {grown}";
            case 4:
                // Same length, same time, other content: only the time of the change tells.
                var swapped = Any(files);
                var (time, bytes) = (File.GetLastWriteTimeUtc(swapped), File.ReadAllBytes(swapped));
                if (bytes.Length > 0) bytes[_random.Next(bytes.Length)] ^= 0x40;
                File.WriteAllBytes(swapped, bytes);
                File.SetLastWriteTimeUtc(swapped, time);
                return $"change within {swapped}";
            case 5:
                var removed = Any(files);
                File.Delete(removed);
                return $"delete {removed}";
            case 6:
                var (from, to) = (Any(files), NewName());
                File.Move(from, to);
                return $"move {from} to {to}";
            case 7:
                var folder = NewName();
                Directory.CreateDirectory(folder);
                return $"make folder {folder}";
            case 8:
                var (one, other) = (Any(files), NewName());
                Link(one, other);
                return $"link {one} as {other}";
            case 9:
                var pointer = NewName();
                File.CreateSymbolicLink(pointer, _random.Next(2) == 0 ? "../somewhere else" : Any(files));
                return $"point {pointer}";
            case 10:
                var moded = Any(files);
                File.SetUnixFileMode(moded, (UnixFileMode)(_random.Next(0x1000) | 0x180));
                return $"mode of {moded}";
            case 11 when Folders.Length > 2:
                var whole = Any(Folders[1..]);
                Directory.Delete(whole, recursive: true);
                return $"delete folder {whole}";
            case 12:
                // A file where a folder of that name was, or the other way round.
                var turned = Any(files);
                File.Delete(turned);
                Directory.CreateDirectory(turned);
                File.WriteAllBytes(Path.Combine(turned, "inside"), Content());
                return $"turn {turned} into a folder";
            case 13 or 14:
                // A link where a file was, or a file where a link was.
                var turning = Any(files);
                var wasLink = new FileInfo(turning).LinkTarget is not null;
                File.Delete(turning);
                if (wasLink) File.WriteAllBytes(turning, Content());
                else File.CreateSymbolicLink(turning, "over there");
                return $"turn {turning} into a {(wasLink ? "file" : "link")}";
            default:
                var noted = Any(files);
                using (var top = TreeRoot.Here("/").Open())
                using (var open = top.OpenFileAt(Encoding.UTF8.GetBytes(noted[1..]), FileUse.Read))
                    open.TrySetAttribute("user.note", Content()[..2]);
                return $"note on {noted}";
        }
    }

    private byte[] Content()
    {
        var content = new byte[_random.Next(2, 5000)];
        _random.NextBytes(content);
        return content;
    }

    private static void Link(string from, string to)
    {
        using var top = TreeRoot.Here("/").Open();
        if (!top.TryHardLink(Encoding.UTF8.GetBytes(from[1..]), top, Encoding.UTF8.GetBytes(to[1..]), out var trouble))
            throw new FileTroubleException(trouble, "link");
    }
}
