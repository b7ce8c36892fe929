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
        var there = tree.Find(path);
        if (there is { Kind: NodeKind.Folder }) return await NamesAsync();
        if (there is null || path.AsFolder) return 404;
        var file = tree.Top.OpenFileAt(path.Bytes, FileUse.Read);
        NodeFacts facts;
        try
        {
            facts = file.Facts();
            if (facts.Kind != NodeKind.File) throw new FileTroubleException(new(Fault.GoneMeanwhile), "read");
            if (share.Medium is not null && IsToBeProven)
                Response.Headers[MediumByHttp.From] = MediumByHttp.Word(
                    tree.Top.ReadsFrom is not ReadFrom.Medium and var elsewhere ? elsewhere : file.Forget(facts.Bytes));
        }
        catch
        {
            file.Dispose();
            throw;
        }
        Response.Headers.ETag = ETag(facts);
        await Results.Stream(
            new SeekableReadStream(file, facts.Bytes), "application/octet-stream", lastModified: ModifiedOf(facts),
            entityTag: new(ETag(facts)), enableRangeProcessing: true)
            .ExecuteAsync(context);
        return Response.StatusCode;
    }

    private bool IsToBeProven => Request.Headers.CacheControl.ToString().Contains("no-cache", StringComparison.OrdinalIgnoreCase);

    private async Task<int> NamesAsync()
    {
        var names = string.Concat(tree.Below(path).Select(b => b.Name + "\n"));
        Response.ContentType = "text/plain; charset=utf-8";
        Response.ContentLength = Encoding.UTF8.GetByteCount(names);
        if (Request.Method == "GET") await Response.WriteAsync(names, context.RequestAborted);
        return 200;
    }

    private async Task<int> PutAsync()
    {
        var part = share.Options.PartialPut == PartialPut.Mistaken
            ? null
            : Request.Headers.ContentRange is { Count: > 0 } asked
            ? asked.ToString()
            : null;
        if (part is not null && share.Options.PartialPut == PartialPut.Refused) return 400;
        var there = tree.Find(path);
        if (there is { Kind: NodeKind.Folder } || path.AsFolder) return 405;
        if (!IsFolder(path.Parent)) return 409;
        if (!Preconditions(there, out var refusal)) return refusal;
        if (Locked(path, false, there is null) is not 0 and var locked) return locked;
        if (part is not null) return await PutPartAsync(part, there);
        var aside = share.Aside.Child(Guid.NewGuid().ToString("N"), false);
        try
        {
            if (Request.ContentLength > share.RoomBytes) return await DrainAsync(507);
            // Another server that begins on this folder clears away what it takes for nobody's.
            tree.MakeFolders(share.Aside);
            using (var file = tree.MakeFile(aside))
            {
                if (!await TakeAsync(file)) return 507;
                // What stands there gives way only to what is on the medium.
                if (there is not null) file.Sync();
            }
            lock (share.Change)
            {
                if (!IsFolder(path.Parent)) return 409;
                var stands = tree.Standing(path);
                if (stands is { Kind: NodeKind.Folder }) return 405;
                if (!Preconditions(stands, out refusal)) return refusal;
                if (stands is not (null or { Kind: NodeKind.File })) return 403;
                var written = tree.Find(aside)!.Value;
                tree.Move(aside, path, replace: stands is not null);
                share.Count(written.Bytes - (stands?.Bytes ?? 0));
                Response.Headers.ETag = ETag(written);
                return stands is null ? 201 : 204;
            }
        }
        catch (IOException broke) when (broke is not FileTroubleException && context.RequestAborted.IsCancellationRequested)
        {
            return 400;
        }
        finally
        {
            tree.Remove(aside);
        }
    }

    /// <summary>Writes what comes; false: more comes than there is room for.</summary>
    private async Task<bool> TakeAsync(OpenFile file)
    {
        long at = 0;
        var buffer = ArrayPool<byte>.Shared.Rent(64 * 1024);
        try
        {
            while (await Request.Body.ReadAsync(buffer, context.RequestAborted) is > 0 and var got)
            {
                if (at + got > share.RoomBytes) return false;
                file.Write(at, buffer.AsSpan(0, got));
                at += got;
            }
            return true;
        }
        finally
        {
            ArrayPool<byte>.Shared.Return(buffer);
        }
    }

    /// <summary>
    /// Writes a part of a file in its place: over what stands there, or right behind it; what came of a part that breaks off stays.
    /// </summary>
    private async Task<int> PutPartAsync(string asked, NodeFacts? there)
    {
        if (!ContentRangeHeaderValue.TryParse(asked, out var range)
            || range.Unit != "bytes"
            || range is not { From: { } from, To: { } to }
            || range.Length < to + 1)
            return 400;
        if (Request.ContentLength is { } length && length != to - from + 1) return 400;
        if (from > (there?.Bytes ?? 0)) return 416;
        if (there is null && tree.Standing(path) is not null) return 403;
        var before = there?.Bytes ?? 0;
        if (to + 1 - before > share.RoomBytes) return await DrainAsync(507);
        using var file = tree.OpenToWrite(path);
        try
        {
            var buffer = new byte[64 * 1024];
            for (var at = from; at <= to;)
            {
                var got = await Request.Body.ReadAsync(
                    buffer.AsMemory(0, (int)Math.Min(buffer.Length, to + 1 - at)), context.RequestAborted);
                if (got == 0) return 400;
                file.Write(at, buffer.AsSpan(0, got));
                at += got;
            }
            return there is null ? 201 : 204;
        }
        catch (IOException broke) when (broke is not FileTroubleException && context.RequestAborted.IsCancellationRequested)
        {
            return 400;
        }
        finally
        {
            share.Count(Math.Max(0, file.Facts().Bytes - before));
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
