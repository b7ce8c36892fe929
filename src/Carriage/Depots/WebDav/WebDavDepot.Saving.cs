using System.Net;
using System.Net.Http.Headers;
using YardRelay.Core;

namespace YardRelay.Carriage.Depots.WebDav;

/// <summary>Saving: put aside, whole or part by part, then moved to its name.</summary>
public sealed partial class WebDavDepot
{
    /// <summary>How much of a large file goes in one request, in bytes: what breaks off costs no more than that.</summary>
    private const long PartBytes = 32 << 20;

    // Some servers take a file away whose first request broke off.
    private const long FirstPartBytes = 1 << 20;

    /// <inheritdoc/>
    public async Task<Result<long>> SaveAsync(DepotPath path, DepotPath aside, Content content, CancellationToken cancel)
    {
        await MakeFoldersAsync(aside.Parent, cancel);
        // Its own folder is wanted when it moves there, and is made meanwhile.
        var making = MakeFoldersAsync(path.Parent, cancel);
        var (whole, goesOn) = (false, false);
        try
        {
            var refused = content.GoesOn && await _parts.AreKeptAsync(this, aside.Parent, cancel)
                ? await PutPartsAsync(path, aside, content, cancel)
                : await PutAsync(path, aside, content, cancel);
            if (refused is not null) return refused;
            if (content.SettlesFirst && await GiveBackAsync(path, aside, content, cancel) is { } other) return other;
            await making;
            for (var (again, overwrite) = (true, false); ; again = false)
            {
                // A move that may overwrite would take a whole folder away (RFC 4918, section 9.9.3): only what is known to be a file is
                // overwritten.
                var may = overwrite;
                using var moved = await SendAsync(() => Request("MOVE", aside, destination: path, overwrite: may), cancel);
                if (moved.StatusCode == HttpStatusCode.PreconditionFailed && !overwrite)
                {
                    if (await IsFolderAsync(path, cancel)) return new DepotRefused(path.Text, "a folder stands under that name.");
                    if (!content.SettlesFirst && await GiveBackAsync(path, aside, content, cancel) is { } changed)
                        return changed;
                    overwrite = true;
                    continue;
                }
                // A folder on the way may have been swept away by another client since we made it.
                if (moved.StatusCode == HttpStatusCode.Conflict && again)
                {
                    _made.ForgetAll();
                    await MakeFoldersAsync(path.Parent, cancel);
                    continue;
                }
                // The answer to an earlier try may have been lost: gone from aside and whole at its name means moved.
                if (moved.StatusCode == HttpStatusCode.NotFound && await LengthAsync(path, cancel) == content.Bytes) return content.Bytes;
                if (Refusal(moved, path, content) is { } problem) return problem;
                whole = true;
                return content.Bytes;
            }
        }
        catch (Exception broke) when (content.GoesOn && broke is OperationCanceledException or DepotUnreachableException)
        {
            // Stopped, or the share went away: what lies aside is the beginning of what comes next time.
            goesOn = true;
            throw;
        }
        finally
        {
            await making.ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            if (!whole && !goesOn && !cancel.IsCancellationRequested) await TryRemoveAsync(aside);
        }
    }

    private Problem? Refusal(HttpResponseMessage response, DepotPath path, Content content) =>
        response.IsSuccessStatusCode ? null : response.StatusCode switch
        {
            HttpStatusCode.InsufficientStorage or HttpStatusCode.RequestEntityTooLarge => new DepotFull(Address, content.Bytes),
            _ => new DepotRefused(path.Text, $"it answers {(int)response.StatusCode} {response.ReasonPhrase}."),
        };

    private async Task<Problem?> PutAsync(DepotPath path, DepotPath aside, Content content, CancellationToken cancel)
    {
        using var put = await SendAsync(() =>
        {
            var request = Request("PUT", aside);
            request.Content = new ExactContent(() => content.Open(), content.Bytes);
            return request;
        }, cancel);
        return Refusal(put, path, content);
    }

    /// <summary>Puts a large file part by part, behind what lies aside of it; a part that breaks off is all that is sent again.</summary>
    private async Task<Problem?> PutPartsAsync(DepotPath path, DepotPath aside, Content content, CancellationToken cancel)
    {
        var from = await LengthAsync(aside, cancel) ?? 0;
        if (from > content.Bytes)
        {
            await RemoveAsync(aside, cancel);
            from = 0;
        }
        // Where all of it lies there, it is only read to its end, as whoever hashes it needs.
        var reading = content.Open(from);
        var at = from;
        try
        {
            for (long bytes; from < content.Bytes; from += bytes)
            {
                bytes = Math.Min(from == 0 ? FirstPartBytes : PartBytes, content.Bytes - from);
                using var put = await SendAsync(() => Part(from, bytes), cancel);
                if (Refusal(put, path, content) is { } problem) return problem;
            }
            return null;
        }
        finally
        {
            await reading.DisposeAsync();
        }

        HttpRequestMessage Part(long start, long bytes)
        {
            if (at != start)
            {
                reading.Dispose();
                (reading, at) = (content.Open(start), start);
            }
            var request = Request("PUT", aside);
            request.Content = new ExactContent(() => new OpenPart(reading, read => at += read), bytes);
            request.Content.Headers.ContentRange = new(start, start + bytes - 1, content.Bytes);
            return request;
        }
    }

    private async Task TryRemoveAsync(DepotPath path)
    {
        try
        {
            using var limit = new CancellationTokenSource(TimeSpan.FromSeconds(5), _options.Work.Time);
            using var response = await _http.SendAsync(Signed(Request("DELETE", path)), limit.Token);
        }
        catch (Exception broke) when (broke is HttpRequestException or OperationCanceledException or IOException)
        {
            // The next trip clears what lies aside.
        }
    }
}
