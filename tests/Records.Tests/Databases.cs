using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using YardRelay.Peers;

namespace YardRelay.Records.Tests;

/// <summary>A kind of database that records stand in, and how its tables are described.</summary>
public abstract class Databases : IDisposable
{
    /// <summary>Connection string of a new, empty database.</summary>
    protected abstract string New();

    /// <summary>What the last version with a chain of migrations left: a refresh of three swaps, its plan, a step, a ledger.</summary>
    protected abstract string ChainFile { get; }

    /// <summary>Queries of one column, a line for each column, index and key.</summary>
    protected abstract IReadOnlyList<string> Describing { get; }

    public static YardDb Open(string connection)
    {
        var options = new DbContextOptionsBuilder<YardDb>();
        RecordsOptions.Use(options, connection);
        return new(options.Options);
    }

    public string Empty() => New();

    public async Task<string> OfTheChainAsync(CancellationToken cancel)
    {
        var connection = New();
        using var file = new StreamReader(typeof(Databases).Assembly.GetManifestResourceStream(ChainFile)!);
        await ExecuteAsync(connection, await file.ReadToEndAsync(cancel), cancel);
        return connection;
    }

    public static async Task ExecuteAsync(string connection, string sql, CancellationToken cancel)
    {
        await using var db = Open(connection);
        await db.Database.OpenConnectionAsync(cancel);
        await using var command = db.Database.GetDbConnection().CreateCommand();
        command.CommandText = sql;
        await command.ExecuteNonQueryAsync(cancel);
    }

    /// <summary>
    /// All tables but EF's own, described in lines; the order of columns does not count, nor what new rows get by default.
    /// </summary>
    public async Task<List<string>> DescribeAsync(string connection, CancellationToken cancel)
    {
        await using var db = Open(connection);
        await db.Database.OpenConnectionAsync(cancel);
        var lines = new List<string>();
        foreach (var query in Describing)
        {
            await using var command = db.Database.GetDbConnection().CreateCommand();
            command.CommandText = query;
            await using var reader = await command.ExecuteReaderAsync(cancel);
            while (await reader.ReadAsync(cancel)) lines.Add(reader.GetString(0));
        }
        lines.RemoveAll(l => l.Contains("__EFMigrations", StringComparison.Ordinal));
        lines.Sort(StringComparer.Ordinal);
        return lines;
    }

    public abstract void Dispose();
}

public sealed class SqliteDatabases : Databases
{
    private readonly TempFolder _folder = new();
    private int _made;

    protected override string ChainFile => "sqlite.sql";

    protected override IReadOnlyList<string> Describing =>
    [
        """
        SELECT t.name || ' column ' || c.name || ' ' || c.type || ' notnull=' || c."notnull" || ' key=' || c.pk
        FROM sqlite_master t JOIN pragma_table_info(t.name) c WHERE t.type = 'table' AND t.name NOT LIKE 'sqlite_%'
        """,
        """
        SELECT t.name || ' index ' || i.name || ' unique=' || i."unique" || ' ' || group_concat(x.name, ',') || ' '
            || coalesce((SELECT substr(m.sql, instr(m.sql, ' WHERE ')) FROM sqlite_master m WHERE m.name = i.name AND i.partial), '')
        FROM sqlite_master t JOIN pragma_index_list(t.name) i JOIN pragma_index_info(i.name) x WHERE t.type = 'table'
        GROUP BY t.name, i.name, i."unique", i.partial
        """,
        """
        SELECT t.name || ' refers ' || f."from" || ' to ' || f."table" || '.' || f."to" || ' ' || f.on_delete
        FROM sqlite_master t JOIN pragma_foreign_key_list(t.name) f WHERE t.type = 'table'
        """,
    ];

    protected override string New() => At(Interlocked.Increment(ref _made));

    private string At(int number) => $"Data Source={_folder[$"{number}.db"]}";

    /// <summary>Ends what the pool keeps of one database; to end all would reach into what other tests are just opening.</summary>
    public static void End(string connection)
    {
        using var any = new SqliteConnection(connection);
        SqliteConnection.ClearPool(any);
    }

    public override void Dispose()
    {
        for (var number = 1; number <= _made; number++) End(At(number));
        _folder.Dispose();
    }
}

public sealed class PostgresDatabases : Databases
{
    private readonly PostgresServer _server = new();

    protected override string ChainFile => "postgres.sql";

    protected override IReadOnlyList<string> Describing =>
    [
        """
        SELECT concat_ws(' ', table_name, 'column', column_name, data_type, character_maximum_length, is_nullable, is_identity)
        FROM information_schema.columns WHERE table_schema = 'public'
        """,
        "SELECT indexdef FROM pg_indexes WHERE schemaname = 'public'",
        """
        SELECT concat_ws(' ', conrelid::regclass::text, conname, pg_get_constraintdef(oid))
        FROM pg_constraint WHERE connamespace = 'public'::regnamespace
        """,
    ];

    protected override string New() => _server.NewDatabase();

    public override void Dispose()
    {
        NpgsqlConnection.ClearAllPools();
        _server.Dispose();
    }
}
