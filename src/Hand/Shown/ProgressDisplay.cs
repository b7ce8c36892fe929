using Spectre.Console;
using Spectre.Console.Rendering;
using YardRelay.Carriage.Pace;
using YardRelay.Carriage.Trips;
using YardRelay.Core.Carrying;

namespace YardRelay.Hand.Shown;

/// <summary>Shows work as it goes on: a moving line in a terminal, a plain line now and then elsewhere, nothing for machines.</summary>
internal sealed class ProgressDisplay : IAsyncDisposable
{
    private readonly CancellationTokenSource _ended = new();
    private readonly string _what;
    private readonly Odometer _progress;
    private readonly long _started = TimeProvider.System.GetTimestamp();
    private readonly Queue<(TimeSpan At, long Bytes)> _recent = new();
    private Task _showing = Task.CompletedTask;

    private ProgressDisplay(string what, Odometer progress) => (_what, _progress) = (what, progress);

    public static ProgressDisplay Start(string what, Odometer progress, bool quiet)
    {
        var display = new ProgressDisplay(what, progress);
        if (!quiet)
            display._showing = Task.Run(Console.IsOutputRedirected || !AnsiConsole.Profile.Capabilities.Ansi
                ? display.PlainAsync
                : display.LiveAsync);
        return display;
    }

    private TimeSpan Elapsed => TimeProvider.System.GetElapsedTime(_started);

    /// <summary>Rate over the last ten seconds, so that a stall shows.</summary>
    private double BytesPerSecond()
    {
        var now = Elapsed;
        _recent.Enqueue((now, _progress.Bytes));
        while (_recent.Count > 2 && now - _recent.Peek().At > TimeSpan.FromSeconds(10)) _recent.Dequeue();
        var (since, bytes) = _recent.Peek();
        return now - since < TimeSpan.FromMilliseconds(200)
            ? _progress.Bytes / Math.Max(0.2, now.TotalSeconds)
            : (_progress.Bytes - bytes) / (now - since).TotalSeconds;
    }

    private string Text()
    {
        var rate = BytesPerSecond();
        var (files, bytes, ofFiles, ofBytes) = (_progress.Files, _progress.Bytes, _progress.TotalFiles, _progress.TotalBytes);
        var done = ofFiles > 0
            ? $"{files:#,0} of {ByteText.Files(ofFiles)}, {ByteText.Of(bytes)} of {ByteText.Of(ofBytes)}"
            : $"{ByteText.Files(files)}, {ByteText.Of(bytes)}";
        var left = ofBytes > bytes && rate > 1 ? $", {ByteText.Of(TimeSpan.FromSeconds((ofBytes - bytes) / rate))} left" : "";
        return $"{done}, {ByteText.Of((long)rate)}/s{left}";
    }

    private async Task PlainAsync()
    {
        while (await WaitAsync(TimeSpan.FromSeconds(5))) Console.Out.WriteLine($"{_what}: {Text()}");
    }

    private async Task LiveAsync()
    {
        await AnsiConsole.Live(Drawn()).AutoClear(true).StartAsync(async live =>
        {
            while (await WaitAsync(TimeSpan.FromMilliseconds(200)))
            {
                live.UpdateTarget(Drawn());
                live.Refresh();
            }
        });
    }

    /// <summary>The line of the trade: solid behind, the wagon at its true fraction, dotted ahead.</summary>
    private IRenderable Drawn()
    {
        var width = Math.Clamp(AnsiConsole.Profile.Width - 4, 20, 60);
        var share = _progress.TotalBytes > 0 ? Math.Clamp((double)_progress.Bytes / _progress.TotalBytes, 0, 1) : 0;
        var at = (int)(share * (width - 3));
        var line = new Markup(
            $"[teal]●{new string('━', at)}[/][blue]◖━◗[/][grey]{string.Concat(Enumerable.Repeat("·", width - 3 - at))}○[/]");
        var beat = "◐◓◑◒"[(int)(Elapsed.TotalMilliseconds / 200) % 4];
        var now = _progress.At is { Length: > 0 } path ? path.Length > width ? "…" + path[^(width - 1)..] : path : "looking around";
        return new Rows(line, new Text($"{beat} {_what}  {Text()}"), new Text($"  {now}", new Style(Color.Grey)));
    }

    private async Task<bool> WaitAsync(TimeSpan time)
    {
        await Task.Delay(time, _ended.Token).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
        return !_ended.IsCancellationRequested;
    }

    public async ValueTask DisposeAsync()
    {
        await _ended.CancelAsync();
        await _showing;
        _ended.Dispose();
    }
}
