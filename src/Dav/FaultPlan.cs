using Microsoft.AspNetCore.Http;

namespace YardRelay.Dav;

/// <summary>What a share with bad days does to a request.</summary>
internal enum ShareFault
{
    None,
    Refused,
    TooMany,
    Dropped,
    ReplyLost,
    HalfAnswered,
}

/// <summary>
/// A seeded plan of faults: the n-th request of a share fares the same for the same seed, so that what it did to a client can be looked at
/// again.
/// </summary>
/// <param name="seed">Another seed, other faults.</param>
/// <param name="rate">How many of the requests are hit, 0 to 1.</param>
internal sealed class FaultPlan(int seed, double rate)
{
    private static readonly ShareFault[] Kinds =
        [ShareFault.Refused, ShareFault.TooMany, ShareFault.Dropped, ShareFault.ReplyLost, ShareFault.HalfAnswered];
    private long _requests;

    /// <summary>Serves a request, or does to it what the plan says.</summary>
    public async Task RunAsync(HttpContext context, Func<Task> serve)
    {
        switch (Next())
        {
            case ShareFault.None:
                await serve();
                return;
            case ShareFault.Refused:
                (context.Response.StatusCode, context.Response.Headers.RetryAfter) = (503, "1");
                return;
            case ShareFault.TooMany:
                (context.Response.StatusCode, context.Response.Headers.RetryAfter) =
                    (429, DateTimeOffset.UtcNow.AddSeconds(1).ToString("r"));
                return;
            case ShareFault.Dropped:
                context.Abort();
                return;
            case ShareFault.ReplyLost:
                // All is done, and nobody hears of it.
                context.Response.Body = Stream.Null;
                await serve();
                context.Abort();
                return;
            default:
                var body = context.Response.Body;
                using (var half = new MemoryStream())
                {
                    context.Response.Body = half;
                    await serve();
                    context.Response.Body = body;
                    if (half.Length > 1)
                    {
                        context.Response.ContentLength ??= half.Length;
                        await body.WriteAsync(half.GetBuffer().AsMemory(0, (int)(half.Length / 2)));
                        await body.FlushAsync();
                    }
                }
                context.Abort();
                return;
        }
    }

    private ShareFault Next()
    {
        // SplitMix64 of seed and number: a die that any request can throw by itself.
        var x = unchecked(((ulong)seed * 0x9E3779B97F4A7C15) + ((ulong)Interlocked.Increment(ref _requests) * 0xBF58476D1CE4E5B9));
        x = unchecked((x ^ (x >> 30)) * 0xBF58476D1CE4E5B9);
        x = unchecked((x ^ (x >> 27)) * 0x94D049BB133111EB);
        x ^= x >> 31;
        return (x >> 11) * (1.0 / (1UL << 53)) < rate ? Kinds[x % (ulong)Kinds.Length] : ShareFault.None;
    }
}
