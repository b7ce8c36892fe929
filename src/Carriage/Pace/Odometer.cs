namespace YardRelay.Carriage.Pace;

/// <summary>Counters that move while work goes on; read at any moment from any thread.</summary>
public sealed class Odometer
{
    private long _files;
    private long _bytes;
    private long _totalFiles;
    private long _totalBytes;
    private string _at = "";

    /// <summary>Files dealt with.</summary>
    public long Files => Interlocked.Read(ref _files);

    /// <summary>Bytes read, also inside a file that is not done.</summary>
    public long Bytes => Interlocked.Read(ref _bytes);

    /// <summary>Files in all, as far as known; 0: not known yet.</summary>
    public long TotalFiles => Interlocked.Read(ref _totalFiles);

    /// <summary>Bytes in all, as far as known.</summary>
    public long TotalBytes => Interlocked.Read(ref _totalBytes);

    /// <summary>The file being worked on; stays on the computer.</summary>
    public string At => Volatile.Read(ref _at);

    /// <summary>Whether what is needed first is there, while the rest still comes; of a restore that has such.</summary>
    public bool FirstIsThere { get; private set; }

    internal void Reached() => FirstIsThere = true;

    internal void Moved(long bytes) => Interlocked.Add(ref _bytes, bytes);

    internal void Done(long files = 1) => Interlocked.Add(ref _files, files);

    internal void Restart()
    {
        Interlocked.Exchange(ref _files, 0);
        Interlocked.Exchange(ref _bytes, 0);
    }

    internal void Expect(long files, long bytes)
    {
        Interlocked.Exchange(ref _totalFiles, files);
        Interlocked.Exchange(ref _totalBytes, bytes);
    }

    internal void Now(string path) => Volatile.Write(ref _at, path);
}
