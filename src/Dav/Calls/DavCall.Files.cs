using System.Buffers;
using System.Text;
using Microsoft.AspNetCore.Http;
using Microsoft.Net.Http.Headers;

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
                await Results.File(
                    file.FullName, "application/octet-stream", lastModified: file.LastWriteTimeUtc, entityTag: new(ETag(file)),
                    enableRangeProcessing: true)
                    .ExecuteAsync(context);
                return Response.StatusCode;
            case DirectoryInfo folder:
                var names = string.Concat(folder.EnumerateFileSystemInfos()
                    .Where(i => i.Name != DavShare.Hidden)
                    .Select(i => i.Name)
                    .Order(StringComparer.Ordinal)
                    .Select(n => n + "\n"));
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
        var part = share.Options.PartialPut == PartialPut.Mistaken
            ? null
            : Request.Headers.ContentRange is { Count: > 0 } asked
            ? asked.ToString()
            : null;
        if (part is not null && share.Options.PartialPut == PartialPut.Refused) return 400;
        var there = Find(path);
        if (there is DirectoryInfo || path.AsFolder) return 405;
        if (Find(path.Parent) is not DirectoryInfo) return 409;
        if (!Preconditions(there, out var refusal)) return refusal;
        if (Locked(path, false, there is null) is not 0 and var locked) return locked;
        if (part is not null) return await PutPartAsync(part, there as FileInfo);
        var aside = Path.Combine(share.Aside, Guid.NewGuid().ToString("N"));
        try
        {
            var length = Request.ContentLength;
            if (share.Options.QuotaBytes is { } quota && length is { } announced && announced > quota - share.UsedBytes)
                return await DrainAsync(507);
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

    /// <summary>
    /// Writes a part of a file in its place: over what stands there, or right behind it; what came of a part that breaks off stays.
    /// </summary>
    private async Task<int> PutPartAsync(string asked, FileInfo? there)
    {
        if (!ContentRangeHeaderValue.TryParse(asked, out var range)
            || range.Unit != "bytes"
            || range is not { From: { } from, To: { } to }
            || range.Length < to + 1)
            return 400;
        if (Request.ContentLength is { } length && length != to - from + 1) return 400;
        if (from > (there?.Length ?? 0)) return 416;
        if (there is null && (Directory.Exists(Disk(path)) || new FileInfo(Disk(path)).LinkTarget is not null)) return 403;
        if (share.Options.QuotaBytes is { } quota && to + 1 - (there?.Length ?? 0) > quota - share.UsedBytes) return await DrainAsync(507);
        var before = there?.Length ?? 0;
        await using var file = new FileStream(Disk(path), FileMode.OpenOrCreate, FileAccess.Write, FileShare.Read, 0, useAsync: false);
        try
        {
            file.Seek(from, SeekOrigin.Begin);
            var buffer = new byte[64 * 1024];
            for (var left = to - from + 1; left > 0;)
            {
                var got = await Request.Body.ReadAsync(buffer.AsMemory(0, (int)Math.Min(buffer.Length, left)), context.RequestAborted);
                if (got == 0) return 400;
                file.Write(buffer, 0, got);
                left -= got;
            }
            return there is null ? 201 : 204;
        }
        catch (IOException) when (context.RequestAborted.IsCancellationRequested)
        {
            return 400;
        }
        finally
        {
            share.Count(Math.Max(0, file.Length - before));
        }
    }

    /// <summary>Takes the rest of a refused upload, within bounds, so that the client reads the answer and not a broken pipe.</summary>
    private async Task<int> DrainAsync(int status)
    {
        var buffer = new byte[64 * 1024];
        for (long taken = 0; taken < 8 << 20 && await Request.Body.ReadAsync(buffer, context.RequestAborted) is > 0 and var got;)
            taken += got;
        return status;
    }
}
