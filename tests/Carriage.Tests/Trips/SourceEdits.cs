using System.Text;

namespace YardRelay.Carriage.Tests.Trips;

/// <summary>What a person and their programs do to a tree through the seam, drawn from a seed.</summary>
internal sealed class SourceEdits(TreeRoot root, Random random)
{
    private static readonly string[] Odd = ["", "", "", " spaced", "=3D", "%41", "ü", "CON", "~", ".", "A", "a"];

    /// <summary>Makes one change; tells which.</summary>
    public string Once()
    {
        var files = All(NodeKind.File);
        var folders = All(NodeKind.Folder);
        var any = files.Count == 0 ? "" : files[random.Next(files.Count)];
        switch (files.Count < 4 ? 0 : random.Next(15))
        {
            case 0 or 1 or 2:
                return Make(NewName(folders));
            case 3:
                Write(any, Of(any).Bytes, Content(200));
                return $"append to {any}";
            case 4:
                // Same length, same time, other content: only the time of the change tells.
                var was = Of(any);
                Write(any, was.Bytes / 2, Content(1));
                using (var open = Opened(any)) open.SetModified(was.Modified);
                return $"change within {any}";
            case 5:
                Remove(any);
                return $"remove {any}";
            case 6:
                var to = NewName(folders);
                Rename(any, to);
                return $"move {any} to {to}";
            case 7:
                var made = NewName(folders);
                MakeFolder(made);
                return $"make folder {made}";
            case 8:
                var other = NewName(folders);
                Above(any, (from, name) => Above(other, (at, newName) => from.TryHardLink(name, at, newName, out _)));
                return $"link {any} as {other}";
            case 9:
                var pointer = NewName(folders);
                Above(pointer, (at, name) =>
                {
                    if (at.TryFacts(name, out _) is null) at.MakeLink(name, "../over there"u8);
                    return true;
                });
                return $"point {pointer}";
            case 10:
                using (var open = Opened(any)) open.SetMode((ushort)(0x180 | random.Next(0x80)));
                return $"mode of {any}";
            case 11 when folders.Count > 2:
                var whole = folders[random.Next(1, folders.Count)];
                RemoveTree(whole);
                return $"remove folder {whole}";
            case 12:
                Remove(any);
                MakeFolder(any);
                return $"turn {any} into a folder; {Make(any + "/inside")}";
            case 13 when folders.Count > 2:
                var turned = folders[random.Next(1, folders.Count)];
                RemoveTree(turned);
                return $"turn folder into a file: {Make(turned)}";
            default:
                using (var open = Opened(any)) open.TrySetAttribute("user.note", Content(3));
                return $"note on {any}";
        }
    }

    /// <summary>Gives most files the content of earlier days.</summary>
    public string PutBack()
    {
        foreach (var path in All(NodeKind.File).Where(_ => random.Next(5) > 0))
        {
            var was = Of(path).Modified;
            Write(path, 0, Content(300));
            using var file = Opened(path);
            file.SetModified(new(was.Seconds - 86_400 * random.Next(1, 30), was.Nanos));
        }
        return "put back to an earlier state";
    }

    /// <summary>A name comes that differs from one that stands only in case or form, in its stead or beside it.</summary>
    public string Twin()
    {
        var all = All(NodeKind.File).Concat(All(NodeKind.Folder)).Where(p => p.Length > 0).ToList();
        if (all.Count == 0) return "nothing to have a twin";
        var path = all[random.Next(all.Count)];
        var (above, name) = (path[..(path.LastIndexOf('/') + 1)], path[(path.LastIndexOf('/') + 1)..]);
        var other = name.Contains('ü', StringComparison.Ordinal) ? name.Replace("ü", "u\u0308", StringComparison.Ordinal)
            : name.Contains("u\u0308", StringComparison.Ordinal) ? name.Replace("u\u0308", "ü", StringComparison.Ordinal)
            : name.Any(char.IsAsciiLetterLower) ? name.ToUpperInvariant()
            : name.ToLowerInvariant();
        if (random.Next(3) == 0) return Make(above + other);
        Rename(path, above + other);
        return $"name {path} anew as {other}";
    }

    private string NewName(List<string> folders)
    {
        var folder = folders[random.Next(folders.Count)];
        var name = $"n{random.Next(30)}{Odd[random.Next(Odd.Length)]}";
        return folder.Length == 0 ? name : folder + "/" + name;
    }

    private string Make(string path)
    {
        var done = Above(path, (folder, name) =>
        {
            using var file = folder.TryOpenFile(name, FileUse.MakeNew, out _, 0x1A4);
            if (file is null) return false;
            if (random.Next(8) == 0) file.Write(random.Next(3) * 20_000, Content(3000));
            else if (random.Next(8) != 0) file.Write(0, Content(random.Next(4) == 0 ? 8000 : 300));
            return true;
        });
        return (done ? "make " : "cannot make ") + path;
    }

    private byte[] Content(int most)
    {
        var content = new byte[random.Next(1, most + 1)];
        random.NextBytes(content);
        return content;
    }

    private NodeFacts Of(string path)
    {
        using var file = Opened(path);
        return file.Facts();
    }

    private OpenFile Opened(string path)
    {
        using var top = root.Open();
        return top.OpenFileAt(Encoding.UTF8.GetBytes(path), FileUse.Read);
    }

    private void Write(string path, long at, byte[] content)
    {
        using var top = root.Open();
        using var file = top.OpenFileAt(Encoding.UTF8.GetBytes(path), FileUse.Write);
        file.Write(at, content);
    }

    private bool Above(string path, Func<OpenFolder, byte[], bool> what)
    {
        var slash = path.LastIndexOf('/');
        using var top = root.Open();
        using var folder = top.OpenFolderAt(Encoding.UTF8.GetBytes(slash < 0 ? "" : path[..slash]));
        return what(folder, Encoding.UTF8.GetBytes(path[(slash + 1)..]));
    }

    private void Remove(string path) => Above(path, (folder, name) => folder.TryRemove(name, isFolder: false, out _));

    private void MakeFolder(string path) => Above(path, (folder, name) => folder.TryMakeFolder(name, 0x1ED, out _));

    private void Rename(string from, string to) => Above(
        from, (folder, name) => Above(to, (at, newName) => folder.TryRename(name, at, newName, replace: false, out _)));

    private void RemoveTree(string path) => Above(path, (folder, name) =>
    {
        using (var inside = folder.OpenFolderAt(name))
            foreach (var below in inside.Names())
                if (!inside.TryRemove(below, isFolder: false, out _)) RemoveTree(path + "/" + Encoding.UTF8.GetString(below));
        return folder.TryRemove(name, isFolder: true, out _);
    });

    private List<string> All(NodeKind kind)
    {
        var found = new List<string>();
        using var top = root.Open();
        Walk(top, "");
        return found;

        void Walk(OpenFolder folder, string at)
        {
            if (kind == NodeKind.Folder) found.Add(at);
            foreach (var name in folder.Names())
            {
                var facts = folder.TryFacts(name, out _)!.Value;
                var path = (at.Length == 0 ? "" : at + "/") + Encoding.UTF8.GetString(name);
                if (facts.Kind == kind && kind != NodeKind.Folder) found.Add(path);
                if (facts.Kind != NodeKind.Folder) continue;
                using var inside = folder.OpenFolderAt(name);
                Walk(inside, path);
            }
        }
    }
}
