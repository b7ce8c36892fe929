using System.Globalization;
using System.Text;

namespace YardRelay.Files.Tests.Simulated;

/// <summary>Calls drawn from a seed, made on a folder; what each answered is said in words that any side can be held against.</summary>
internal sealed class RandomCalls(OpenFolder top, int seed)
{
    private static readonly string[] Names = ["a", "b", "c", "d"];
    private readonly Random _random = new(seed);

    /// <summary>Makes one call.</summary>
    public string Next()
    {
        var (folder, other) = (Path(_random.Next(3)), Path(_random.Next(3)));
        var (name, newName) = (Any(), Any());
        var (kind, coin, number) = (_random.Next(14), _random.Next(2) == 0, _random.Next(1, 9000));
        using var at = top.TryOpenFolder(folder, coin ? FolderUse.List : FolderUse.Pass, out var trouble);
        using var to = top.TryOpenFolder(other, FolderUse.Pass, out var there);
        var call = string.Create(
            CultureInfo.InvariantCulture,
            $"{kind}{(coin ? "+" : "-")} {Shown(folder)}:{Shown(name)} {Shown(other)}:{Shown(newName)} {number}");
        if (at is null || to is null) return $"{call} = no folder: {trouble.Fault} {there.Fault}";
        return $"{call} = {Answer(at, name, to, newName, kind, coin, number)}";
    }

    private static string Answer(OpenFolder at, byte[] name, OpenFolder to, byte[] newName, int kind, bool coin, int number)
    {
        Trouble trouble = default;
        try
        {
            switch (kind)
            {
                case 0 or 1:
                    using (var file = at.TryOpenFile(name, coin ? FileUse.MakeNew : FileUse.Make, out trouble))
                        file?.Write(number, Encoding.UTF8.GetBytes($"content {number}"));
                    break;
                case 2:
                    using (var file = at.TryOpenFile(name, FileUse.Read | FileUse.Write, out trouble)) file?.SetLength(number);
                    break;
                case 3 or 4:
                    at.TryMakeFolder(name, 0x1ED, out trouble);
                    break;
                case 5:
                    at.MakeLink(name, newName);
                    break;
                case 6 or 7:
                    at.TryRename(name, to, newName, coin, out trouble);
                    break;
                case 8:
                    at.TryHardLink(name, to, newName, out trouble);
                    break;
                case 9:
                    at.TryRemove(name, coin, out trouble);
                    break;
                case 10:
                    using (var file = at.TryMakeUnnamed(out trouble))
                        if (file is not null) at.TryGiveName(file, name, out trouble);
                    break;
                case 11:
                    return Encoding.UTF8.GetString(at.ReadLink(name));
                case 12:
                    using (var file = at.TryOpenFile(name, FileUse.Read, out trouble))
                        if (file?.Facts() is { Kind: NodeKind.File } facts) return $"{facts.Bytes} bytes, {facts.Links} names";
                    break;
                default:
                    using (var again = to.TryOpenFolder([.. newName, (byte)'/', .. name], FolderUse.List, out trouble)) break;
            }
        }
        catch (FileTroubleException broke)
        {
            trouble = broke.Trouble;
        }
        return $"{trouble.Fault}";
    }

    private byte[] Any() => Encoding.UTF8.GetBytes(Names[_random.Next(Names.Length)]);

    private byte[] Path(int deep) =>
        Encoding.UTF8.GetBytes(string.Join('/', Enumerable.Range(0, deep).Select(_ => Names[_random.Next(2)])));

    private static string Shown(byte[] bytes) => Encoding.UTF8.GetString(bytes);
}
