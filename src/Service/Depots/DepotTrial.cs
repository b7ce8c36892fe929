using System.Net;
using System.Net.Sockets;
using YardRelay.Carriage.Checks;
using YardRelay.Carriage.Depots;
using YardRelay.Contracts;
using YardRelay.Files.Working;
using YardRelay.Records;

namespace YardRelay.Service.Depots;

/// <summary>What came of trying a depot.</summary>
/// <param name="Words">What was found, or why nothing was, in a sentence.</param>
/// <param name="IsTried">Whether it was tried at all.</param>
/// <param name="Trouble">What is wrong with it; null: nothing.</param>
/// <param name="FreeBytes">Room that it said it has; null: it does not say.</param>
internal sealed record DepotTried(string Words, bool IsTried, string? Trouble = null, long? FreeBytes = null);

/// <summary>
/// Tries a depot when it is set, by writing a little and reading it back: address, sign-in, room, names. Only one that the service may
/// open; any other is tried by the first hand that has an order for it.
/// </summary>
internal sealed class DepotTrial(ServiceDoor door, DepotSecrets secrets)
{
    // Somebody waits for it.
    private static readonly TimeSpan Longest = TimeSpan.FromSeconds(20), LongestKnock = TimeSpan.FromSeconds(5);
    private const int MostWords = 400, SshPort = 22;

    public async Task<DepotTried> RunAsync(DepotRow row, CancellationToken cancel)
    {
        if (row.Address == BuiltInDepot.Address) return new("The service's own: nothing has to be tried.", false);
        var hand = $"Try it at a computer that is to use it: yardhand probe {row.Address}";
        if (!door.Open(new(row.Address, "", Access: secrets.Open(row.Access))).TryGet(out var opened, out _))
            return new($"Not tried yet: the service itself does not open it. {hand}", false);
        using var limit = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        limit.CancelAfter(Longest);
        var probing = Task.CompletedTask;
        try
        {
            if (Uri.TryCreate(row.Address, UriKind.Absolute, out var uri) && !uri.IsFile)
            {
                if (await door.WhereAsync(uri.IdnHost, limit.Token) is not { } places)
                    return new($"Not tried yet: the service itself does not go there. {hand}", false);
                if (await KnockAsync(uri, places, limit.Token) is { } shut) return Failed(shut);
            }
            // By this computer's own clock, whatever clock the service practises with: it is this computer that waits.
            var work = DepotProbe.RunAsync(opened, new ThreadWork(TimeProvider.System), limit.Token);
            probing = work;
            var probed = await work.WaitAsync(limit.Token);
            return new(
                $"Tried: it takes what is written, and gives it back{(probed.Features.HoldsAnyName ? "" : "; not every name")}.",
                true,
                FreeBytes: probed.Room.FreeBytes);
        }
        catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
        {
            return Failed($"It did not answer within {Longest.TotalSeconds:0} seconds.");
        }
        catch (SocketException)
        {
            return Failed("Nobody knows a computer of that name.");
        }
        catch (Exception broke) when (broke is IOException or UnauthorizedAccessException)
        {
            return Failed(broke.Message);
        }
        finally
        {
            // What hangs may hang on; it is closed when it is over, and nobody waits for it.
            _ = probing.ContinueWith(_ => opened.Dispose(), CancellationToken.None, TaskContinuationOptions.None, TaskScheduler.Default);
        }

        static DepotTried Failed(string why)
        {
            var words = why.Length > MostWords ? why[..MostWords] : why;
            return new($"Tried, and it cannot be used: {words}", true, words);
        }
    }

    // One that is not there answers a knock soon, or not at all; the probe itself tries again and again.
    private static async Task<string?> KnockAsync(Uri uri, IPAddress[] places, CancellationToken cancel)
    {
        using var soon = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        soon.CancelAfter(LongestKnock);
        try
        {
            using var socket = new TcpClient();
            await socket.ConnectAsync(places, uri.Port > 0 ? uri.Port : SshPort, soon.Token);
            return null;
        }
        catch (SocketException broke)
        {
            return $"{uri.IdnHost} does not answer: {broke.Message}.";
        }
        catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
        {
            return $"{uri.IdnHost} does not answer.";
        }
    }
}
