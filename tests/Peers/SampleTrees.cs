using System.Text;
using YardRelay.Files;

namespace YardRelay.Peers;

/// <summary>Makes trees with everything that file systems allow, and compares trees with tools that share no code with ours.</summary>
public static class SampleTrees
{
    /// <summary>A tree with odd names, modes, times, links, holes, attributes and empty folders. The same for the same seed.</summary>
    public static void MakeHostile(string root, int seed, int files = 60)
    {
        var random = new Random(seed);
        Directory.CreateDirectory(root);
        byte[][] names = [.. new[]
        {
            "plain.txt", "with space", "a=b", "x=3D", "y=~z", "100%", "quote\"s", "back\\slash", "new\nline", "tab\there", "CON", "dot.",
            "Möwe", "𝔘nicode", "-dash", "a", "a.b", "a-b"
        }.Select(Encoding.UTF8.GetBytes),
            [0xE9, 0x74, 0xE9], [0xff, 0xfe, 0x20], [.. Encoding.UTF8.GetBytes(new string('n', 254)), 0xE9],
            Encoding.UTF8.GetBytes(new string('ö', 127))];
        var folders = new List<byte[]> { Array.Empty<byte>() };
        using var top = TreeRoot.Here(root).Open();
        for (var i = 0; i < files; i++)
        {
            var folder = folders[random.Next(folders.Count)];
            using var at = top.OpenFolderAt(folder);
            var name = i < names.Length ? names[i] : [.. Encoding.UTF8.GetBytes($"f{i}-"), .. names[random.Next(8)]];
            switch (i < names.Length ? 2 + (i % 8) : random.Next(10))
            {
                case 0 or 1 when folder.Length < 700:
                    at.TryMakeFolder(name, 0x1ED, out _);
                    folders.Add(folder.Length == 0 ? name : [.. folder, (byte)'/', .. name]);
                    break;
                case 3:
                    at.MakeLink(
                        name, random.Next(3) switch { 0 => "../../etc/passwd"u8, 1 => "/nowhere\xFF"u8, _ => "plain.txt"u8 });
                    at.SetLinkModified(name, Time(random));
                    break;
                case 4 when i > names.Length:
                    using (var inside = top.TryOpenFile(names[0], FileUse.Read, out _))
                        if (inside is not null) top.TryHardLink(names[0], at, name, out _);
                    break;
                default:
                    using (var file = at.TryOpenFile(name, FileUse.Read | FileUse.Make, out _, 0x1A4)!)
                    {
                        var content = new byte[random.Next(6) == 0 ? 0 : random.Next(1, 9000)];
                        random.NextBytes(content);
                        if (random.Next(8) == 0)
                        {
                            file.Write(3_000_000, content);
                            file.SetLength(9_000_001);
                        }
                        else file.Write(0, content);
                        if (random.Next(4) == 0) file.TrySetAttribute("user.note", content[..Math.Min(content.Length, 40)]);
                        file.SetMode((ushort)(random.Next(5) == 0 ? 0xFFF : 0x100 | random.Next(0x200)));
                        file.SetModified(Time(random));
                    }
                    break;
            }
        }
        foreach (var folder in Enumerable.Reverse(folders))
        {
            using var at = top.OpenFolderAt(folder);
            at.SetMode((ushort)(0x1C0 | random.Next(0x40) | (random.Next(4) == 0 ? 0x200 : 0)));
            at.SetModified(Time(random));
        }
    }

    private static Stamp Time(Random random) => new(random.NextInt64(-2_000_000, 2_000_000_000), (uint)random.Next(1_000_000_000));

    /// <summary>
    /// Every name with type, mode, time to the nanosecond, size and link target, and which names are one file; as <c>find</c> sees them.
    /// </summary>
    public static SortedDictionary<string, string> Look(string root)
    {
        using var process = System.Diagnostics.Process.Start(new System.Diagnostics.ProcessStartInfo(
            "find", [root, "-printf", @"%P\0%y %m %T@ %Y\0%s\0%l\0%i %n\0"])
        {
            RedirectStandardOutput = true,
            StandardOutputEncoding = Encoding.Latin1
        })!;
        var fields = process.StandardOutput.ReadToEnd().Split('\0');
        process.WaitForExit();
        var found = new SortedDictionary<string, string>(StringComparer.Ordinal);
        var firsts = new Dictionary<string, string>();
        foreach (var row in fields.Chunk(5).Where(r => r.Length == 5).OrderBy(r => r[0], StringComparer.Ordinal))
        {
            var kind = row[1][0];
            var same = "";
            if (kind == 'f' && !row[4].EndsWith(" 1", StringComparison.Ordinal) && !firsts.TryAdd(row[4].Split(' ')[0], row[0]))
                same = " same as " + firsts[row[4].Split(' ')[0]];
            found[row[0]] = $"{row[1][..^2]}{(kind == 'f' ? " " + row[2] : "")}{(kind == 'l' ? " -> " + row[3] : "")}{same}";
        }
        return found;
    }

    /// <summary>
    /// All differences between two trees in names, kinds, modes, times, links, contents and attributes; empty when they are alike.
    /// </summary>
    public static string Differences(string a, string b)
    {
        var (left, right) = (Look(a), Look(b));
        var text = new StringBuilder();
        foreach (var name in left.Keys.Union(right.Keys).Order(StringComparer.Ordinal))
            if (left.GetValueOrDefault(name) != right.GetValueOrDefault(name))
                text.AppendLine($"'{name}': {left.GetValueOrDefault(name) ?? "missing"} | {right.GetValueOrDefault(name) ?? "missing"}");
        var diff = Run.To("diff", "-rq", "--no-dereference", a, b);
        if (diff.Exit != 0) text.AppendLine(diff.All);
        var (one, two) = (Attributes(a), Attributes(b));
        if (one != two) text.AppendLine($"attributes: {one} | {two}");
        return text.ToString();
    }

    private static string Attributes(string root) =>
        Run.To("sh", "-c", $"cd '{root}' && getfattr -R -h -d -m - -e hex . 2>/dev/null | LC_ALL=C sort").Out;
}
