namespace YardRelay.Dav.Calls;

/// <summary>Making, removing, copying and moving.</summary>
internal sealed partial class DavCall
{
    private int Delete()
    {
        lock (share.Change)
        {
            var there = Find(path);
            if (there is null) return 404;
            if (path.IsRoot) return 403;
            if (Locked(path, true, true) is not 0 and var locked) return locked;
            Remove(path, there);
            return 204;
        }
    }

    private void Remove(DavPath at, FileSystemInfo there)
    {
        var size = share.Options.QuotaBytes is null ? 0 : there is FileInfo file ? file.Length : DavShare.Size((DirectoryInfo)there);
        if (there is DirectoryInfo folder) folder.Delete(recursive: true);
        else there.Delete();
        share.Count(-size);
        share.Properties.Remove(at.Key);
        share.Locks.Forget(at.Key);
    }

    private int MakeFolder()
    {
        if (Request.ContentLength > 0 || Request.Headers.TransferEncoding.Count > 0) return 415;
        lock (share.Change)
        {
            if (Find(path) is not null || path.IsRoot || new FileInfo(Disk(path)).LinkTarget is not null) return 405;
            if (Find(path.Parent) is not DirectoryInfo) return 409;
            if (Locked(path, false, true) is not 0 and var locked) return locked;
            Directory.CreateDirectory(Disk(path));
            return 201;
        }
    }

    private int CopyOrMove(bool move)
    {
        if (Destination(Request.Headers["Destination"]) is not { } to) return Request.Headers["Destination"].Count == 0 ? 400 : 502;
        var depth = Request.Headers["Depth"].ToString();
        if (depth is not ("" or "infinity" or "0") || (move && depth == "0")) return 400;
        lock (share.Change)
        {
            var source = Find(path);
            if (source is null) return 404;
            if (path.IsRoot
                || to.IsRoot
                || to.Key == path.Key
                || to.Key.StartsWith(path.Key + "/", StringComparison.Ordinal)
                || path.Key.StartsWith(to.Key + "/", StringComparison.Ordinal))
                return 403;
            if (Find(to.Parent) is not DirectoryInfo) return 409;
            var target = Find(to);
            if (target is null && new FileInfo(Disk(to)).LinkTarget is not null) return 403;
            if (target is not null && Request.Headers["Overwrite"].ToString().Equals("F", StringComparison.OrdinalIgnoreCase)) return 412;
            if (Locked(to, true, target is null) is not 0 and var locked) return locked;
            if (move && Locked(path, true, true) is not 0 and var held) return held;
            var size = move || share.Options.QuotaBytes is null
                ? 0
                : source is FileInfo file
                ? file.Length
                : depth == "0"
                ? 0
                : DavShare.Size((DirectoryInfo)source);
            // What is overwritten gives its room back.
            var freed = share.Options.QuotaBytes is null
                ? 0
                : target switch { FileInfo gone => gone.Length, DirectoryInfo gone => DavShare.Size(gone), _ => 0 };
            if (share.Options.QuotaBytes is { } quota && size > quota - share.UsedBytes + freed) return 507;
            // A file goes over a file in one step; only a folder in the way must go first.
            if (target is FileInfo over && move && source is FileInfo)
            {
                var gone = over.Length;
                File.Move(Disk(path), Disk(to), overwrite: true);
                share.Count(-gone);
                share.Properties.Remove(to.Key);
            }
            else
            {
                if (target is not null) Remove(to, target);
                if (move && source is DirectoryInfo) Directory.Move(Disk(path), Disk(to));
                else if (move) File.Move(Disk(path), Disk(to));
                else CopyTree(source, Disk(to), depth != "0");
            }
            share.Count(size);
            share.Properties.Copy(path.Key, to.Key, depth != "0");
            if (move)
            {
                share.Properties.Remove(path.Key);
                share.Locks.Forget(path.Key);
            }
            return target is null ? 201 : 204;
        }
    }

    private static void CopyTree(FileSystemInfo source, string to, bool deep)
    {
        if (source is FileInfo file)
        {
            file.CopyTo(to);
            return;
        }
        Directory.CreateDirectory(to);
        if (!deep) return;
        foreach (var below in ((DirectoryInfo)source).EnumerateFileSystemInfos())
            if (below.LinkTarget is null) CopyTree(below, Path.Combine(to, below.Name), true);
    }
}
