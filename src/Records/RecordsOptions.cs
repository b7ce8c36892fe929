using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Diagnostics;
using Microsoft.EntityFrameworkCore.Infrastructure;
using SQLitePCL;

namespace YardRelay.Records;

/// <summary>Chooses the database by its connection string: <c>Host=…</c> is PostgreSQL, everything else SQLite.</summary>
public static class RecordsOptions
{
    /// <summary>Whether a connection string means PostgreSQL.</summary>
    public static bool IsPostgres(string connection) => connection.Contains("Host=", StringComparison.OrdinalIgnoreCase);

    /// <summary>Sets the context up for that database and its migrations.</summary>
    public static void Use(DbContextOptionsBuilder options, string connection)
    {
        options.ReplaceService<IModelCacheKeyFactory, YardDb.ModelBySight>();
        if (IsPostgres(connection)) options.UseNpgsql(connection, o => o.MigrationsAssembly("YardRelay.Records.PostgreSql"));
        else options.UseSqlite(connection, o => o.MigrationsAssembly("YardRelay.Records.Sqlite")).AddInterceptors(new SqlitePragmas());
    }

    /// <summary>
    /// WAL for readers beside the writer, a wait instead of an error while another writes; and no statement is left under way when a
    /// connection closes. One that nobody read to its end would make the closing fail, and with it a request whose work is done.
    /// </summary>
    private sealed class SqlitePragmas : DbConnectionInterceptor
    {
        private const string Pragmas = "PRAGMA synchronous=NORMAL; PRAGMA busy_timeout=15000; PRAGMA foreign_keys=ON;";
        private const string Journal = "PRAGMA journal_mode=WAL;";

        /// <summary>
        /// One opens at a time. The library's pool takes a connection for lost, and gives it to a second request, between the moment it
        /// is counted as in use and the moment its holder is written down.
        /// </summary>
        private static readonly Lock Opening = new();

        public override InterceptionResult ConnectionOpening(
            System.Data.Common.DbConnection connection, ConnectionEventData eventData, InterceptionResult result)
        {
            lock (Opening) connection.Open();
            return InterceptionResult.Suppress();
        }

        // Opening a file has no other way than this; the library's own is the same.
        public override ValueTask<InterceptionResult> ConnectionOpeningAsync(
            System.Data.Common.DbConnection connection, ConnectionEventData eventData, InterceptionResult result,
            CancellationToken cancellationToken = default)
        {
            cancellationToken.ThrowIfCancellationRequested();
            return ValueTask.FromResult(ConnectionOpening(connection, eventData, result));
        }

        public override void ConnectionOpened(System.Data.Common.DbConnection connection, ConnectionEndEventData eventData)
        {
            Set(connection);
            Leaves(eventData, () => EndAll(connection));
        }

        public override Task ConnectionOpenedAsync(
            System.Data.Common.DbConnection connection, ConnectionEndEventData eventData, CancellationToken cancellationToken = default)
        {
            Set(connection);
            Leaves(eventData, () => EndAll(connection));
            return Task.CompletedTask;
        }

        public override InterceptionResult ConnectionClosing(
            System.Data.Common.DbConnection connection, ConnectionEventData eventData, InterceptionResult result)
        {
            EndAll(connection);
            return result;
        }

        public override ValueTask<InterceptionResult> ConnectionClosingAsync(
            System.Data.Common.DbConnection connection, ConnectionEventData eventData, InterceptionResult result)
        {
            EndAll(connection);
            return ValueTask.FromResult(result);
        }

        public override void ConnectionClosed(System.Data.Common.DbConnection connection, ConnectionEndEventData eventData) =>
            Leaves(eventData, null);

        public override Task ConnectionClosedAsync(System.Data.Common.DbConnection connection, ConnectionEndEventData eventData)
        {
            Leaves(eventData, null);
            return Task.CompletedTask;
        }

        // A context that goes while its connection is open closes it without a word to anybody: it asks for this itself.
        private static void Leaves(ConnectionEndEventData eventData, Action? end)
        {
            if (eventData.Context is YardDb db) db.EndsWhatIsLeft = end;
        }

        private static void EndAll(System.Data.Common.DbConnection connection)
        {
            if (((SqliteConnection)connection).Handle is not { IsInvalid: false, IsClosed: false } handle) return;
            for (var one = raw.sqlite3_next_stmt(handle, null); one is not null; one = raw.sqlite3_next_stmt(handle, one))
                if (raw.sqlite3_stmt_busy(one) != 0) raw.sqlite3_reset(one);
        }

        private static void Set(System.Data.Common.DbConnection connection)
        {
            // Else the handle would not say which statements it has.
            ((SqliteConnection)connection).Handle!.enable_sqlite3_next_stmt(true);
            using var command = ((SqliteConnection)connection).CreateCommand();
            // A copy made by VACUUM INTO has another journal, and whoever only looks whether it is there must not change that.
            var onlyLooks = connection.ConnectionString.Contains("Mode=ReadOnly", StringComparison.OrdinalIgnoreCase);
            command.CommandText = onlyLooks ? Pragmas : Journal + Pragmas;
            command.ExecuteNonQuery();
        }
    }
}
