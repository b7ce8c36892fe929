using System.Xml.Linq;
using System.Net;

namespace YardRelay.Carriage.Depots.WebDav;

/// <content>What is done to names: moved and removed.</content>
public sealed partial class WebDavDepot
{
    /// <inheritdoc/>
    public async Task<bool> MoveAsync(DepotPath from, DepotPath to, CancellationToken cancel)
    {
        var stood = (await ListAsync(from.Parent, cancel)).FirstOrDefault(n => n.Name == from.Name);
        var tries = 0;
        using var response = await SendAsync(
            () =>
            {
                tries++;
                return Request("MOVE", from, stood?.IsFolder ?? false, to);
            },
            cancel);
        _made.Forget(from);
        // One that was done, and whose answer was lost on its way, finds nothing to move when it is asked again.
        return response.IsSuccessStatusCode || (tries > 1 && stood is not null && await this.HasMovedAsync(from, to, cancel));
    }

    /// <inheritdoc/>
    public async Task RemoveAsync(DepotPath path, CancellationToken cancel)
    {
        using var response = await SendAsync(() => Request("DELETE", path), cancel);
        _made.Forget(path);
        using var again = response.StatusCode == HttpStatusCode.MovedPermanently
            ? await SendAsync(() => Request("DELETE", path, folder: true), cancel)
            : null;
        var status = (again ?? response).StatusCode;
        if ((int)status is >= 200 and < 300 && status != HttpStatusCode.MultiStatus) return;
        // Whatever it answers: nothing that is there any more is removed.
        if (status is not (HttpStatusCode.NotFound or HttpStatusCode.Gone)
            && (await ListAsync(path.Parent, cancel)).Any(n => n.Name == path.Name))
            throw new DepotUnreachableException(Address, $"it answers {(int)status} to the removal of {path.Text}.");
    }

    private static Stamp? ModifiedOf(XElement item) => DateTimeOffset.TryParseExact(
        item.Descendants(Dav + "getlastmodified").FirstOrDefault()?.Value,
        "R",
        System.Globalization.CultureInfo.InvariantCulture,
        System.Globalization.DateTimeStyles.AssumeUniversal,
        out var time)
        ? new(time.ToUnixTimeSeconds(), 0)
        : null;
}
