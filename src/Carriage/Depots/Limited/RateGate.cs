using YardRelay.Files.Working;

namespace YardRelay.Carriage.Depots.Limited;

/// <summary>
/// Lets bytes pass at a rate that may change at any moment; half a second may be drawn in advance. Safe for several threads.
/// </summary>
public sealed class RateGate(IWork work)
{
    private static readonly TimeSpan Look = TimeSpan.FromMilliseconds(200);
    private readonly Lock _gate = new();
    private long? _rate;
    private double _credit;
    private long _since = work.Time.GetTimestamp();

    /// <summary>Bytes a second; 0: nothing passes for now; null: everything passes.</summary>
    public long? BytesPerSecond
    {
        get
        {
            lock (_gate) return _rate;
        }
        set
        {
            lock (_gate)
            {
                if (_rate == value) return;
                (_rate, _credit, _since) = (value, Math.Min(_credit, 0), work.Time.GetTimestamp());
            }
        }
    }

    /// <summary>Takes so many bytes out, and says how long their taker must wait; zero: they pass.</summary>
    private TimeSpan Draw(int bytes, bool isNew)
    {
        lock (_gate)
        {
            if (_rate is not { } rate) return TimeSpan.Zero;
            if (rate == 0) return Look;
            var now = work.Time.GetTimestamp();
            _credit = Math.Min(rate / 2.0, _credit + (work.Time.GetElapsedTime(_since, now).TotalSeconds * rate));
            _since = now;
            if (isNew) _credit -= bytes;
            return _credit >= 0 ? TimeSpan.Zero : TimeSpan.FromSeconds(Math.Clamp(-_credit / rate, 0.001, Look.TotalSeconds));
        }
    }

    /// <summary>Waits until so many bytes may pass.</summary>
    public async ValueTask PassAsync(int bytes, CancellationToken cancel)
    {
        // A wait is short and looks again: the rate may have changed meanwhile, from nothing to something too.
        for (var isNew = true; Draw(bytes, isNew && BytesPerSecond != 0) is { Ticks: > 0 } wait; isNew &= BytesPerSecond == 0)
            await Task.Delay(wait, work.Time, cancel);
    }

    /// <summary>The same for who cannot wait otherwise.</summary>
    public void Pass(int bytes)
    {
        var passing = PassAsync(bytes, CancellationToken.None);
        if (passing.IsCompletedSuccessfully) return;
        work.Wait(async () =>
        {
            await passing;
            return true;
        });
    }
}
