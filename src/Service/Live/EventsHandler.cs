using System.Globalization;
using System.Security.Claims;
using System.Text;
using Microsoft.EntityFrameworkCore;
using YardRelay.Core.Ids;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Live;

/// <summary>The work behind <see cref="EventsEndpoint"/>.</summary>
internal static class EventsHandler
{
    internal static async Task HandleAsync(
        RefreshKey refresh, HttpContext context, EventHub hub, LedgerTail tail, IDbContextFactory<YardDb> records,
        StreamRights rights, IHostApplicationLifetime life)
    {
        using var ends = CancellationTokenSource.CreateLinkedTokenSource(context.RequestAborted, life.ApplicationStopping);
        var cancel = ends.Token;
        using var place = hub.Streams.Take(context.User.FindFirstValue(Sessions.Claim) ?? "", context.User.NameOf());
        if (place is null)
        {
            await new StreamsTooManyProblem(OpenStreams.MostOfSession, OpenStreams.MostOfAccount).ToHttp().ExecuteAsync(context);
            return;
        }
        using var listening = hub.Listen(refresh);
        long last;
        await using (var db = await records.CreateDbContextAsync(cancel))
        {
            var row = await db.Refreshes.AsNoTracking().FirstOrDefaultAsync(r => r.Key == refresh, cancel);
            if (row is null)
            {
                context.Response.StatusCode = 404;
                return;
            }
            last = long.TryParse(
                context.Request.Headers["Last-Event-ID"].ToString(), NumberStyles.None, CultureInfo.InvariantCulture, out var seen)
                ? Math.Min(seen, row.LedgerNumber)
                : row.LedgerNumber;
        }
        context.Response.ContentType = "text/event-stream";
        context.Response.Headers.CacheControl = "no-store";
        try
        {
            await SendAsync("retry: 2000\n\n");
            for (var right = rights.Of(context.User, refresh); !cancel.IsCancellationRequested;)
            {
                if (!await right.StillAsync()) return;
                while (await tail.AfterAsync(refresh, last, cancel) is { Count: > 0 } entries)
                {
                    foreach (var entry in entries)
                        if (Sees(entry.Site)) await context.Response.Body.WriteAsync(entry.Bytes, cancel);
                    await context.Response.Body.FlushAsync(cancel);
                    last = entries[^1].Number;
                }
                var wake = await listening.NextAsync(StreamRights.Beat, cancel);
                if (wake is null) await SendAsync(": beat\n\n");
                for (; wake is not null; wake = listening.Reader.TryRead(out var more) ? more : null)
                    if (wake.Progress is not null && Sees(wake.Site)) await SendAsync($"event: progress\ndata: {wake.Progress}\n\n");
            }
        }
        catch (OperationCanceledException)
        {
            // The browser went, or the service stops.
        }

        bool Sees(string? site) => site is null || context.User.MayWorkAt(site);

        async Task SendAsync(string text)
        {
            await context.Response.Body.WriteAsync(Encoding.UTF8.GetBytes(text), cancel);
            await context.Response.Body.FlushAsync(cancel);
        }
    }
}
