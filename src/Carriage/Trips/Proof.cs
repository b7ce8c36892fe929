using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Digests;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Trips;

/// <summary>What a depot is believed to have under a path.</summary>
internal readonly record struct Claim(DepotPath Path, string Sha256, long Bytes);

/// <summary>Reads back what a depot is believed to have, several files at once, past what this computer keeps in memory.</summary>
/// <param name="depot">What it has was settled before.</param>
internal sealed class Proof(IDepot depot, ReadTally tally, int atOnce, IWork work)
{
    /// <summary>Looks at all of them.</summary>
    /// <returns>Those that are not there as they are believed to be, by their place in the list, and why not.</returns>
    public async Task<IReadOnlyList<(int At, string Why)>> FailsAsync(IReadOnlyList<Claim> claims, CancellationToken cancel)
    {
        var (next, fails) = (-1, new List<(int At, string Why)>());
        await Task.WhenAll(Enumerable.Range(0, Math.Min(atOnce, claims.Count)).Select(_ => work.Start(async () =>
        {
            while (Interlocked.Increment(ref next) is var at && at < claims.Count)
                if (await WhyNotAsync(claims[at], cancel) is { } why)
                    lock (fails) fails.Add((at, why));
        })));
        return fails;
    }

    private async Task<string?> WhyNotAsync(Claim claim, CancellationToken cancel)
    {
        try
        {
            if (!(await depot.OpenBackAsync(claim.Path, cancel)).TryGet(out var back, out _))
                return "The depot took it, and it is not there.";
            await using (back.Stream)
            {
                var (sha256, bytes) = await Digest.OfAsync(back.Stream, null, cancel);
                tally.Add(back.From, bytes);
                return sha256 == claim.Sha256 && bytes == claim.Bytes ? null : "The depot gave back something else than was staged.";
            }
        }
        catch (FileTroubleException broke)
        {
            return $"The depot took it, and cannot read it any more: {broke.Message}.";
        }
    }
}
