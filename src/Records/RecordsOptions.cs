using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Diagnostics;

namespace YardRelay.Records;

/// <summary>Chooses the database by its connection string: <c>Host=…</c> is PostgreSQL, everything else SQLite.</summary>
public static class RecordsOptions
{
    /// <summary>Whether a connection string means PostgreSQL.</summary>
    public static bool IsPostgres(string connection) => connection.Contains("Host=", StringComparison.OrdinalIgnoreCase);

    /// <summary>Sets the context up for that database and its migrations.</summary>
    public static void Use(DbContextOptionsBuilder options, string connection)
    {
        if (IsPostgres(connection)) options.UseNpgsql(connection, o => o.MigrationsAssembly("YardRelay.Records.PostgreSql"));
        else options.UseSqlite(connection, o => o.MigrationsAssembly("YardRelay.Records.Sqlite")).AddInterceptors(new SqlitePragmas());
    }

    /// <summary>WAL for readers beside the writer, a wait instead of an error while another writes.</summary>
    private sealed class SqlitePragmas : DbConnectionInterceptor
    {
        private const string Pragmas =
            "PRAGMA journal_mode=WAL; PRAGMA synchronous=NORMAL; PRAGMA busy_timeout=15000; PRAGMA foreign_keys=ON;";

        public override void ConnectionOpened(System.Data.Common.DbConnection connection, ConnectionEndEventData eventData) =>
            Set(connection);

        public override Task ConnectionOpenedAsync(
            System.Data.Common.DbConnection connection, ConnectionEndEventData eventData, CancellationToken cancellationToken = default)
        {
            Set(connection);
            return Task.CompletedTask;
        }

        private static void Set(System.Data.Common.DbConnection connection)
        {
            using var command = ((SqliteConnection)connection).CreateCommand();
            command.CommandText = Pragmas;
            command.ExecuteNonQuery();
        }
    }
}
