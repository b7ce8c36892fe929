namespace YardRelay.Peers;

/// <summary>A real PostgreSQL on a socket of its own, without syncing; one for all tests of a process.</summary>
public sealed class PostgresServer : IDisposable
{
    private const string Bin = "/usr/lib/postgresql/15/bin/";

    /// <summary>What a server does against a power cut, or for the databases of years, is nothing for one that lives for minutes.</summary>
    private const string Hasty =
        "-c fsync=off -c synchronous_commit=off -c full_page_writes=off -c wal_level=minimal -c max_wal_senders=0 -c autovacuum=off "
            + "-c jit=off -c max_parallel_workers_per_gather=0 -c bgwriter_lru_maxpages=0 -c checkpoint_timeout=1d -c max_wal_size=8GB";

    private readonly TempFolder _folder = new();
    private int _databases;

    public PostgresServer()
    {
        Run.Must("chmod", "0777", _folder.At);
        As($"{Bin}initdb", "-A", "trust", "--no-sync", "-E", "UTF8", "--locale=C", "-D", _folder["data"]);
        As(
            $"{Bin}pg_ctl", "-D", _folder["data"], "-w", "-l", _folder["log"], "-o",
            $"-p 5432 -k {_folder.At} -c listen_addresses='' -c max_connections=200 {Hasty}", "start");
    }

    private static void As(string program, params string[] args)
    {
        var ran = Environment.UserName == "root"
            ? Run.To("setpriv", ["--reuid=postgres", "--regid=postgres", "--clear-groups", program, .. args])
            : Run.To(program, args);
        if (ran.Exit != 0) throw new InvalidOperationException($"{program}: {ran.All}");
    }

    /// <summary>Connection string of a new, empty database.</summary>
    public string NewDatabase()
    {
        var name = $"yard{Interlocked.Increment(ref _databases)}";
        As($"{Bin}createdb", "-h", _folder.At, "-U", "postgres", name);
        return $"Host={_folder.At};Username=postgres;Database={name}";
    }

    public void Dispose()
    {
        try
        {
            As($"{Bin}pg_ctl", "-D", _folder["data"], "-m", "immediate", "stop");
        }
        finally
        {
            _folder.Dispose();
        }
    }
}
