namespace YardRelay.Dav.Calls;

/// <summary>Making, removing, copying and moving.</summary>
internal sealed partial class DavCall
{
    private int Delete()
    {
        lock (share.Change)
        {
            if (tree.Find(path) is not { } there) return 404;
            if (path.IsRoot) return 403;
            if (Locked(path, true, true) is not 0 and var locked) return locked;
            Remove(path, there);
            return 204;
        }
    }

    private void Remove(DavPath at, in NodeFacts there)
    {
        var size = share.Options.QuotaBytes is null ? 0 : tree.Size(at, there);
        tree.Remove(at);
        share.Count(-size);
        share.Properties.Remove(at.Key);
        share.Locks.Forget(at.Key);
    }

    private int MakeFolder()
    {
        if (Request.ContentLength > 0 || Request.Headers.TransferEncoding.Count > 0) return 415;
        lock (share.Change)
        {
            if (tree.Standing(path) is not null) return 405;
            if (!IsFolder(path.Parent)) return 409;
            if (Locked(path, false, true) is not 0 and var locked) return locked;
            tree.MakeFolder(path);
            return 201;
        }
    }

    private int CopyOrMove(bool move)
    {
        if (Destination(Request.Headers["Destination"]) is not { } to) return Request.Headers["Destination"].Count == 0 ? 400 : 502;
        var depth = Request.Headers["Depth"].ToString();
        if (depth is not ("" or "infinity" or "0") || (move && depth == "0")) return 400;
        // What stands there gives way only to what is on the medium.
        if (move && tree.Find(path) is { Kind: NodeKind.File } && tree.Find(to) is { Kind: NodeKind.File })
            using (var coming = tree.Top.OpenFileAt(path.Bytes, FileUse.Read)) coming.Sync();
        lock (share.Change)
        {
            if (tree.Find(path) is not { } source) return 404;
            if (path.IsRoot
                || to.IsRoot
                || to.Key == path.Key
                || to.Key.StartsWith(path.Key + "/", StringComparison.Ordinal)
                || path.Key.StartsWith(to.Key + "/", StringComparison.Ordinal))
                return 403;
            if (!IsFolder(to.Parent)) return 409;
            var target = tree.Standing(to);
            if (target is not (null or { Kind: NodeKind.File or NodeKind.Folder })) return 403;
            if (target is not null && Request.Headers["Overwrite"].ToString().Equals("F", StringComparison.OrdinalIgnoreCase)) return 412;
            if (Locked(to, true, target is null) is not 0 and var locked) return locked;
            if (move && Locked(path, true, true) is not 0 and var held) return held;
            var size = move || share.Options.QuotaBytes is null
                ? 0
                : source.Kind == NodeKind.Folder && depth == "0"
                ? 0
                : tree.Size(path, source);
            // What is overwritten gives its room back.
            var freed = share.Options.QuotaBytes is null || target is not { } given ? 0 : tree.Size(to, given);
            if (size - freed > share.RoomBytes) return 507;
            // A file goes over a file in one step; only a folder in the way must go first.
            if (move && source.Kind == NodeKind.File && target is { Kind: NodeKind.File } over)
            {
                tree.Move(path, to, replace: true);
                share.Count(-over.Bytes);
                share.Properties.Remove(to.Key);
            }
            else
            {
                if (target is { } gone) Remove(to, gone);
                if (move) tree.Move(path, to, replace: false);
                else tree.Copy(path, to, depth != "0");
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

    private bool IsFolder(DavPath at) => tree.Find(at) is { Kind: NodeKind.Folder };
}
