using YardRelay.Core;

namespace YardRelay.Client;

/// <summary>Where a service is, as somebody gives it: a place that passwords, codes and tokens may be sent to.</summary>
public static class ServiceAddress
{
    private sealed record NoAddress(string? Given) : Problem(
        "service.address", $"'{Given}' is not the address of a service. Use https://host or https://host:port.");

    private sealed record InClear(Uri Address) : Problem(
        "service.in-clear",
        $"'{Address}' is plain http: on the way everybody could read passwords and tokens. Use https, or say --in-clear where the way is "
            + "yours alone.");

    /// <summary>Reads it.</summary>
    /// <param name="given">What was typed.</param>
    /// <param name="inClear">Secrets may go there in clear; else they do so on this computer only.</param>
    /// <returns>The address; <c>service.address</c> or <c>service.in-clear</c>.</returns>
    public static Result<Uri> Of(string? given, bool inClear) =>
        !Uri.TryCreate(given, UriKind.Absolute, out var address) || address.Scheme is not ("http" or "https") ? new NoAddress(given)
        : address.Scheme == Uri.UriSchemeHttp && !address.IsLoopback && !inClear ? new InClear(address)
        : address;
}
