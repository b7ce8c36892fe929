using System.Runtime.CompilerServices;
using System.Threading.Channels;

namespace YardRelay.Files.Working;

/// <summary>
/// How work is done beside other work, and what it takes from the computer but for files: threads, waiting, time, chance, places for what
/// is only passing. On a computer it is the framework's (<see cref="ThreadWork"/>); in a simulation one thread takes turns by a seed, so
/// that each run can be had again.
/// </summary>
public interface IWork
{
    /// <summary>What time it is, and how it passes: waits are <c>Task.Delay(…, Time, …)</c>.</summary>
    TimeProvider Time { get; }

    /// <summary>How many may work at the same moment.</summary>
    int Cores { get; }

    /// <summary>How long processors worked for this program.</summary>
    TimeSpan ProcessorTime { get; }

    /// <summary>Begins something that goes on beside the caller.</summary>
    Task<T> Start<T>(Func<Task<T>> what);

    /// <summary>Begins something that goes on beside the caller.</summary>
    Task Start(Func<Task> what);

    /// <summary>Waits on the spot for something, where a caller knows no other way to wait.</summary>
    T Wait<T>(Func<Task<T>> what);

    /// <summary>A gate that lets so many through until some come back.</summary>
    IGate Gate(int places);

    /// <summary>A pipe from one writer to one reader, in which so many wait at most.</summary>
    Channel<T> Pipe<T>(int most);

    /// <summary>An outcome that somebody else will tell.</summary>
    TaskCompletionSource<T> Promise<T>();

    /// <summary>Cancels, and comes back when all who are told of it were told.</summary>
    Task CancelAsync(CancellationTokenSource source);

    /// <summary>A number that nothing else bears.</summary>
    Guid NewId();

    /// <summary>A place on this computer for bytes that are only passing.</summary>
    Temporary Temporary();
}

/// <summary>Lets so many through at once; safe for calls from several threads.</summary>
public interface IGate : IDisposable
{
    /// <summary>Waits for a place.</summary>
    Task WaitAsync(CancellationToken cancel);

    /// <summary>Waits for a place, no longer than so long; false: none came free.</summary>
    Task<bool> WaitAsync(TimeSpan patience, CancellationToken cancel);

    /// <summary>Gives places back.</summary>
    void Release(int places = 1);
}

/// <summary>What is often said of work.</summary>
public static class WorkWords
{
    /// <summary>Waits for the end of something whose failure is told elsewhere.</summary>
    public static ConfiguredTaskAwaitable Quietly(this Task task) =>
        task.ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing | ConfigureAwaitOptions.ContinueOnCapturedContext);
}
