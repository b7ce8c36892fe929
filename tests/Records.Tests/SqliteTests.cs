using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using SQLitePCL;
using YardRelay.Peers;

namespace YardRelay.Records.Tests;

/// <summary>What only SQLite asks of those who use it.</summary>
public sealed class SqliteTests
{
    [Theory]
    [InlineData(true)]
    // The context is gone while its connection is open: what is left then came back as an error of whoever opened one later.
    [InlineData(false)]
    public async Task A_connection_closes_though_a_statement_on_it_was_never_read_to_its_end(bool isClosedFirst)
    {
        using var folder = new TempFolder();
        var connection = $"Data Source={folder["test.db"]}";
        for (var turn = 0; turn < 3; turn++)
        {
            var db = Databases.Open(connection);
            await db.Database.OpenConnectionAsync(TestContext.Current.CancellationToken);
            var handle = ((SqliteConnection)db.Database.GetDbConnection()).Handle;
            raw.sqlite3_prepare_v2(handle, "SELECT 1 UNION SELECT 2", out var left).ShouldBe(raw.SQLITE_OK);
            raw.sqlite3_step(left).ShouldBe(raw.SQLITE_ROW);
            if (isClosedFirst) await db.Database.CloseConnectionAsync();
            await db.DisposeAsync();
            left.Dispose();
        }
        SqliteDatabases.End(connection);
    }

    // The library's pool took one that was just being opened for one that nobody holds any more, and gave it to a second request.
    [Fact]
    public void Of_many_that_open_at_once_no_two_get_the_same_connection()
    {
        using var folder = new TempFolder();
        var connection = $"Data Source={folder["test.db"]}";
        for (var round = 0; round < 60; round++)
        {
            var contexts = Enumerable.Range(0, 160).Select(_ => Databases.Open(connection)).ToList();
            contexts.AsParallel().WithDegreeOfParallelism(16).ForAll(db => db.Database.OpenConnection());
            contexts.ConvertAll(db => ((SqliteConnection)db.Database.GetDbConnection()).Handle!.DangerousGetHandle()).ShouldBeUnique();
            contexts.ForEach(db => db.Dispose());
            SqliteDatabases.End(connection);
        }
    }
}
