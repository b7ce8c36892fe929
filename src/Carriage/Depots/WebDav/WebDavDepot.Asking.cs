using System.Net;
using System.Net.Http.Headers;

namespace YardRelay.Carriage.Depots.WebDav;

// How a share is asked, and told who asks.
public sealed partial class WebDavDepot
{
    private readonly AuthenticationHeaderValue? _who;
    private volatile bool _isAsked;

    /// <summary>What the share answers; who asks is said once it wants to hear that, and never before.</summary>
    private async Task<HttpResponseMessage> AnswerAsync(Func<HttpRequestMessage> make, TimeSpan? within, CancellationToken cancel)
    {
        while (true)
        {
            using var request = Signed(make());
            // What sends content may take as long as that takes.
            var most = request.Content is null or StringContent ? within ?? _options.AnswerWithin : Timeout.InfiniteTimeSpan;
            using var late = new CancellationTokenSource(most, _options.Work.Time);
            using var limit = CancellationTokenSource.CreateLinkedTokenSource(cancel, late.Token);
            var response = await _http.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, limit.Token);
            if (response.StatusCode is not (HttpStatusCode.Unauthorized or HttpStatusCode.ProxyAuthenticationRequired)) return response;
            var asksFirst = AsksFirst(request, response);
            response.Dispose();
            if (!asksFirst)
                throw new DepotUnreachableException(
                    Address,
                    "it asks for a name and password, or does not accept the ones given. Put them in YARD_DEPOT_USER and "
                        + "YARD_DEPOT_PASSWORD.");
            _isAsked = true;
        }
    }

    private HttpRequestMessage Signed(HttpRequestMessage request)
    {
        if (_isAsked) request.Headers.Authorization = _who;
        return request;
    }

    /// <summary>Whether a share wants to hear who asks, and was not told: nobody says so before.</summary>
    private bool AsksFirst(HttpRequestMessage request, HttpResponseMessage response) =>
        _who is not null
        && response.StatusCode == HttpStatusCode.Unauthorized
        && request.Headers.Authorization is null
        && response.Headers.WwwAuthenticate.Any(w => w.Scheme.Equals("Basic", StringComparison.OrdinalIgnoreCase));
}
