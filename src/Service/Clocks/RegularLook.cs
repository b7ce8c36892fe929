namespace YardRelay.Service.Clocks;

/// <summary>
/// Looks after something every so often, as long as the service runs. What breaks is said in the log, and looked after again.
/// </summary>
/// <param name="every">How often, the first time at once.</param>
internal abstract class RegularLook(TimeSpan every, TimeProvider time, ILogger log) : BackgroundService
{
    /// <summary>What it goes by.</summary>
    protected TimeProvider Time => time;

    /// <summary>Where it says what broke.</summary>
    protected ILogger Log => log;

    /// <summary>What is looked after, as a sentence of the log begins.</summary>
    protected abstract string What { get; }

    /// <summary>Whether there is anything to look after, as the service was set up.</summary>
    protected virtual bool IsWanted => true;

    /// <summary>One look.</summary>
    public abstract Task RoundAsync(CancellationToken cancel);

    protected sealed override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        if (!IsWanted) return;
        using var timer = new PeriodicTimer(every, time);
        do
        {
            try
            {
                await RoundAsync(stoppingToken);
            }
            catch (Exception broke) when (broke is not OperationCanceledException)
            {
                log.LogError(broke, "{What} could not be looked after; tried again in {Seconds} s", What, every.TotalSeconds);
            }
        }
        while (await timer.WaitForNextTickAsync(stoppingToken));
    }
}
