using System.Buffers;
using System.Text;
using Microsoft.AspNetCore.Http;

namespace YardRelay.Dav.Calls;

/// <summary>Reading and writing one file.</summary>
internal sealed partial class DavCall
{
    private async Task<int> GetAsync()
    {
        switch (Find(path))
        {
            case FileInfo file when !path.AsFolder:
                Response.Headers.ETag = ETag(file);
                await Results.File(file.FullName, "application/octet-stream", lastModified: file.LastWriteTimeUtc, entityTag: new(ETag(file)), enableRangeProcessing: true).ExecuteAsync(context);
                return Response.StatusCode;
            case DirectoryInfo folder:
                var names = string.Concat(folder.EnumerateFileSystemInfos().Where(i => i.Name != DavShare.Hidden).Select(i => i.Name).Order(StringComparer.Ordinal).Select(n => n + "\n"));
                Response.ContentType = "text/plain; charset=utf-8";
                Response.ContentLength = Encoding.UTF8.GetByteCount(names);
                if (Request.Method == "GET") await Response.WriteAsync(names, context.RequestAborted);
                return 200;
            default:
                return 404;
        }
    }

    private async Task<int> PutAsync()
    {
        if (Request.Headers.ContentRange.Count > 0) return 400;
        var there = Find(path);
        if (there is DirectoryInfo || path.AsFolder) return 405;
        if (Find(path.Parent) is not DirectoryInfo) return 409;
        if (!Preconditions(there, out var refusal)) return refusal;
        if (Locked(path, false, there is null) is not 0 and var locked) return locked;
        var aside = Path.Combine(share.Aside, Guid.NewGuid().ToString("N"));
        try
        {
            var length = Request.ContentLength;
            if (share.Options.QuotaBytes is { } quota && length is { } announced && announced > quota - share.UsedBytes) return await DrainAsync(507);
            long written = 0;
            var file = new FileStream(aside, FileMode.CreateNew, FileAccess.Write, FileShare.None, 0, useAsync: false);
            await using (file)
            {
                var buffer = ArrayPool<byte>.Shared.Rent(64 * 1024);
                try
                {
                    while (await Request.Body.ReadAsync(buffer, context.RequestAborted) is > 0 and var got)
                    {
                        written += got;
                        if (share.Options.QuotaBytes is { } most && written > most - share.UsedBytes) return 507;
                        file.Write(buffer, 0, got);
                    }
                }
                finally
                {
                    ArrayPool<byte>.Shared.Return(buffer);
                }
            }
            lock (share.Change)
            {
                if (Find(path.Parent) is not DirectoryInfo) return 409;
                there = Find(path);
                if (there is DirectoryInfo) return 405;
                if (!Preconditions(there, out refusal)) return refusal;
                if (Directory.Exists(Disk(path)) || (there is null && new FileInfo(Disk(path)).LinkTarget is not null)) return 403;
                var before = there is FileInfo old ? old.Length : 0;
                File.Move(aside, Disk(path), overwrite: true);
                share.Count(written - before);
            }
            Response.Headers.ETag = ETag(new(Disk(path)));
            return there is null ? 201 : 204;
        }
        catch (IOException) when (context.RequestAborted.IsCancellationRequested)
        {
            return 400;
        }
        finally
        {
            File.Delete(aside);
        }
    }

    /// <summary>Takes the rest of a refused upload, within bounds, so that the client reads the answer and not a broken pipe.</summary>
    private async Task<int> DrainAsync(int status)
    {
        var buffer = new byte[64 * 1024];
        for (long taken = 0; taken < 8 << 20 && await Request.Body.ReadAsync(buffer, context.RequestAborted) is > 0 and var got;) taken += got;
        return status;
    }
}
