using System.Collections.Concurrent;
using System.Text;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.Server.Kestrel.Core.Features;
using Microsoft.EntityFrameworkCore;
using YardRelay.Carriage.Depots;
using YardRelay.Dav;
using YardRelay.Records;
using YardRelay.Service.Facts;
using YardRelay.Service.Live;

namespace YardRelay.Service.Depots;

/// <summary>
/// The service's own depot: a folder beside its records, served over WebDAV to hands with an order, each to its own parcel and only while
/// the order lasts.
/// </summary>
internal sealed class BuiltInDepot(
    ServiceOptions options, DepotSecrets secrets, IDbContextFactory<YardDb> records, EventHub hub, TimeProvider time) : IDisposable
{
    /// <summary>What stands in the records in place of an address.</summary>
    public const string Address = Core.Orders.Ground.BuiltIn;

    /// <summary>Where it is served.</summary>
    public const string Path = "/depot";

    /// <summary>Whether an attempt goes on, and how fast it may bring what it brings; null: no limit holds.</summary>
    private readonly record struct Standing(bool InForce, long? Share);

    private static readonly TimeSpan Believed = TimeSpan.FromSeconds(3);
    private readonly TicketBounds _bounds = new();
    private readonly ConcurrentDictionary<(string Order, int Attempt), (Standing Now, long At, long Grown)> _orders = new();
    private readonly Lazy<DavShare> _share = new(() => new(
        new()
        {
            Folder = options.DepotFolder,
            Settles = true,
            May = static (context, parts) => context.Items[typeof(DepotTicket)] is DepotTicket ticket && May(context.Request, parts, ticket)
        },
        time));

    /// <summary>Its folder, for work beside it.</summary>
    public string Folder => options.DepotFolder;

    /// <summary>Room that is left on its disk, in bytes; null: it cannot be seen.</summary>
    public long? FreeBytes
    {
        get
        {
            try
            {
                return new DriveInfo(Directory.Exists(Folder) ? Folder : System.IO.Path.GetPathRoot(Folder)!).AvailableFreeSpace;
            }
            catch (Exception blind) when (blind is IOException or UnauthorizedAccessException or ArgumentException)
            {
                return null;
            }
        }
    }

    /// <summary>Lets go of the disk.</summary>
    public void Dispose()
    {
        if (_share.IsValueCreated) _share.Value.Dispose();
    }

    public async Task HandleAsync(HttpContext context)
    {
        if (TicketOf(context.Request) is not { } ticket
            || await StandingAsync(ticket, context.RequestAborted) is not { InForce: true } now)
        {
            context.Response.Headers.WWWAuthenticate = "Basic realm=\"depot\", charset=\"UTF-8\"";
            context.Response.StatusCode = 401;
            return;
        }
        context.Items[typeof(DepotTicket)] = ticket;
        if (context.Features.Get<IHttpMaxRequestBodySizeFeature>() is { IsReadOnly: false } size) size.MaxRequestBodySize = null;
        if (context.Features.Get<IHttpMinRequestBodyDataRateFeature>() is { } rate) rate.MinDataRate = null;
        var bound = await _bounds.OfAsync(ticket, now.Share, records, context.RequestAborted);
        try
        {
            if (!bound.Begin()) await RefuseAsync(context, 429, "There are too many requests with this ticket at once.");
            else if (!bound.HasRoom(context.Request.ContentLength ?? 0))
                await RefuseAsync(context, 507, "The ticket of this order has brought all that it may.");
            else
            {
                var body = new TicketedBody(context.Request.Body, bound);
                context.Request.Body = body;
                // What takes long ends with its ticket, and not at its own end.
                await using var watch = time.CreateTimer(_ => EndWithTicket(context, ticket, body, bound), null, Believed, Believed);
                await _share.Value.HandleAsync(context);
            }
        }
        finally
        {
            bound.End();
        }
    }

    private static Task RefuseAsync(HttpContext context, int status, string why)
    {
        context.Response.StatusCode = status;
        if (status == 429) context.Response.Headers.RetryAfter = "1";
        return context.Response.WriteAsync(why, context.RequestAborted);
    }

    private async void EndWithTicket(HttpContext context, DepotTicket ticket, TicketedBody body, TicketBounds.Ticket bound)
    {
        try
        {
            var now = await StandingAsync(ticket, context.RequestAborted);
            bound.Keep(now.Share);
            if (now.InForce) return;
            body.End();
            context.Abort();
        }
        catch (Exception over) when (over is OperationCanceledException or ObjectDisposedException or System.Data.Common.DbException)
        {
            // It ended by itself, or is asked again.
        }
    }

    private DepotTicket? TicketOf(HttpRequest request)
    {
        var header = request.Headers.Authorization.ToString();
        if (!header.StartsWith("Basic ", StringComparison.OrdinalIgnoreCase)) return null;
        var plain = new byte[header.Length];
        if (!Convert.TryFromBase64String(header[6..].Trim(), plain, out var length)) return null;
        return Encoding.UTF8.GetString(plain, 0, length).Split(':', 2) is ["order", var ticket] ? secrets.ReadTicket(ticket) : null;
    }

    /// <summary>Whether the attempt still goes on; asked of the records every few seconds, not for each of ten thousand files.</summary>
    private async Task<Standing> StandingAsync(DepotTicket ticket, CancellationToken cancel)
    {
        var key = (ticket.Order, ticket.Attempt);
        // Whatever ends an order is entered: what was not entered since cannot have ended it.
        var grown = hub.Grown(ticket.Parcel.Split('/')[0]);
        if (_orders.TryGetValue(key, out var known) && known.Grown == grown && time.GetElapsedTime(known.At) < Believed)
            return known.Now;
        await using var db = await records.CreateDbContextAsync(cancel);
        var order = await db.Orders.AsNoTracking().FirstOrDefaultAsync(
            o => o.Id == ticket.Order && o.Attempt == ticket.Attempt && o.State == OrderStates.UnderWay, cancel);
        var swap = order is null ? null : await db.Swaps.AsNoTracking().FirstOrDefaultAsync(s => s.Id == order.Swap, cancel);
        var inForce = swap is not null
            && swap.Parcel == ticket.Parcel
            && order!.Folder == ticket.Folder
            && await new Reaches(db).AgainstAsync(swap, order, cancel) is null;
        if (_orders.Count > 10_000) _orders.Clear();
        var now = new Standing(inForce, inForce ? await RateShare.OfAsync(db, order!, time.GetUtcNow(), cancel) : null);
        _orders[key] = (now, time.GetTimestamp(), grown);
        return now;
    }

    /// <summary>
    /// A parcel is a folder in the folder of its refresh. Outside of it a hand may look whether there is a depot, make that folder, bring
    /// onto its disk what was written, and try names under one of its own.
    /// </summary>
    private static bool May(HttpRequest request, IReadOnlyList<string> parts, DepotTicket ticket)
    {
        if (ticket.Folder?.Split('/') is { } adopted
            && (parts.Take(adopted.Length).SequenceEqual(adopted)
                || (parts.Count < adopted.Length
                    && parts.SequenceEqual(adopted.Take(parts.Count))
                    && (request.Method == "OPTIONS" || (request.Method == "PROPFIND" && request.Headers["Depth"] == "0")))))
            return true;
        var parcel = ticket.Parcel.Split('/');
        if (parts.Count >= parcel.Length && parts.Take(parcel.Length).SequenceEqual(parcel)) return true;
        if (parts.Count > 0 && parts[0].StartsWith(ProbeFolder.Prefix, StringComparison.Ordinal)) return true;
        if (parts.Count >= parcel.Length || !parts.SequenceEqual(parcel.Take(parts.Count))) return false;
        return request.Method is "OPTIONS" or "MKCOL" or "POST" || (request.Method == "PROPFIND" && request.Headers["Depth"] == "0");
    }
}
