using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using YardRelay.Contracts;
using YardRelay.Core;

namespace YardRelay.Client;

/// <summary>What the service answered instead of doing what was asked.</summary>
/// <param name="Status">HTTP status.</param>
/// <param name="All">Every problem, where there are several.</param>
public sealed record Refused(string Code, string Message, int Status, IReadOnlyList<Problem> All) : Problem(Code, Message);

/// <summary>The service cannot be reached.</summary>
public sealed class ServiceUnreachableException(string address, string why, Exception? inner = null)
    : IOException($"The service at {address} cannot be reached: {why} Check the address, and whether it runs.", inner);

/// <summary>
/// The typed client of the service, for command line and hand. Reads and repeats are retried a few times; everything that creates carries
/// an Idempotency-Key.
/// </summary>
public sealed partial class YardClient : IDisposable
{
    /// <summary>How the service writes JSON.</summary>
    public static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        NumberHandling = JsonNumberHandling.Strict,
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase) },
        TypeInfoResolver = JsonTypeInfoResolver.Combine(ContractShapes.Default, new DefaultJsonTypeInfoResolver()),
    };

    private const int Tries = 4;
    private readonly HttpClient _http;

    /// <summary>A client for the service at <paramref name="address"/>.</summary>
    /// <param name="token">Bearer token; null: not signed in.</param>
    public YardClient(Uri address, string? token)
    {
        _http = new(new SocketsHttpHandler
        {
            ConnectTimeout = TimeSpan.FromSeconds(5),
            PooledConnectionLifetime = TimeSpan.FromMinutes(5),
            UseCookies = false
        })
        { BaseAddress = address, Timeout = TimeSpan.FromSeconds(100) };
        _http.DefaultRequestHeaders.Add(HandProtocol.Header, HandProtocol.Number.ToString());
        _http.DefaultRequestHeaders.Add(HandProtocol.VersionHeader, typeof(YardClient).Assembly.GetName().Version?.ToString(3) ?? "");
        if (token is not null) _http.DefaultRequestHeaders.Authorization = new("Bearer", token);
    }

    /// <summary>IANA name of the zone that the times of the newest answer are in; null: UTC.</summary>
    public string? Zone { get; private set; }

    private async Task<Result<T>> SendAsync<T>(
        HttpMethod method, string path, Func<HttpContent?> body, CancellationToken cancel, string? match = null)
    {
        // One key for all tries: the service answers the second as it did the first.
        var key = method == HttpMethod.Post ? Guid.NewGuid().ToString() : null;
        for (var attempt = 1; ; attempt++)
        {
            try
            {
                using var request = new HttpRequestMessage(method, path) { Content = body() };
                if (key is not null) request.Headers.Add("Idempotency-Key", key);
                if (match is not null) request.Headers.IfMatch.Add(new EntityTagHeaderValue($"\"{match}\""));
                using var response = await _http.SendAsync(request, cancel);
                if (response.StatusCode is HttpStatusCode.BadGateway or HttpStatusCode.ServiceUnavailable or HttpStatusCode.GatewayTimeout
                    && attempt < Tries)
                {
                    await Task.Delay(TimeSpan.FromMilliseconds(250 << attempt), cancel);
                    continue;
                }
                Zone = response.Headers.TryGetValues(AnswerZone.Header, out var zones) ? zones.FirstOrDefault() : null;
                if (!response.IsSuccessStatusCode) return await RefusedAsync(response, cancel);
                if (response.StatusCode == HttpStatusCode.NoContent || response.Content.Headers.ContentLength == 0) return default(T)!;
                if (typeof(T) == typeof(byte[])) return (T)(object)await response.Content.ReadAsByteArrayAsync(cancel);
                return (await response.Content.ReadFromJsonAsync<T>(Json, cancel))!;
            }
            catch (Exception broke)
                when (broke is HttpRequestException or IOException
                    || (broke is OperationCanceledException && !cancel.IsCancellationRequested))
            {
                if (attempt >= Tries)
                    throw new ServiceUnreachableException(
                        _http.BaseAddress!.ToString(),
                        broke is OperationCanceledException ? "it does not answer in time." : broke.Message,
                        broke);
                await Task.Delay(TimeSpan.FromMilliseconds(250 << attempt), cancel);
            }
        }
    }

    private static async Task<Refused> RefusedAsync(HttpResponseMessage response, CancellationToken cancel)
    {
        var status = (int)response.StatusCode;
        try
        {
            var problem = JsonNode.Parse(await response.Content.ReadAsStringAsync(cancel));
            var all = (problem?["problems"] as JsonArray ?? [])
                .Select(p => new Problem((string?)p?["code"] ?? "", (string?)p?["message"] ?? "")).ToList();
            var message = (string?)problem?["detail"] ?? status switch
            {
                401 => "You are not signed in, or your token has expired. Run 'yardline sign-in'.",
                403 => "You may not do this. A coordinator can.",
                _ => $"The service answered {status} {response.ReasonPhrase}.",
            };
            return new((string?)problem?["code"] ?? $"http.{status}", message, status, all);
        }
        catch (JsonException)
        {
            return new($"http.{status}", $"The service answered {status} {response.ReasonPhrase}.", status, []);
        }
    }

    private Task<Result<T>> GetAsync<T>(string path, CancellationToken cancel) =>
        SendAsync<T>(HttpMethod.Get, path, static () => null, cancel);

    private Task<Result<T>> PostAsync<T>(string path, object? body, CancellationToken cancel, string? match = null) =>
        SendAsync<T>(
            HttpMethod.Post, path, () => body is null ? null : JsonContent.Create(body, body.GetType(), options: Json), cancel, match);

    private Task<Result<byte[]>> FileAsync(string path, CancellationToken cancel) =>
        SendAsync<byte[]>(HttpMethod.Get, path, static () => null, cancel);

    private Task<Result<T>> PutAsync<T>(string path, object body, CancellationToken cancel, string? match = null) =>
        SendAsync<T>(HttpMethod.Put, path, () => JsonContent.Create(body, body.GetType(), options: Json), cancel, match);

    private Task<Result<JsonElement>> DeleteAsync(string path, CancellationToken cancel) =>
        SendAsync<JsonElement>(HttpMethod.Delete, path, static () => null, cancel);

    private static string E(string part) => Uri.EscapeDataString(part);

    /// <inheritdoc/>
    public void Dispose() => _http.Dispose();
}
