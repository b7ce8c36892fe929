using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using SQLitePCL;
using YardRelay.Peers;

namespace YardRelay.Records.Tests;

/// <summary>What only SQLite asks of those who use it.</summary>
public sealed class SqliteTests
{
    [Fact]
    public async Task A_connection_closes_though_a_statement_on_it_was_never_read_to_its_end()
    {
        using var folder = new TempFolder();
        var options = new DbContextOptionsBuilder<YardDb>();
        RecordsOptions.Use(options, $"Data Source={folder["test.db"]}");
        for (var turn = 0; turn < 3; turn++)
        {
            await using var db = new YardDb(options.Options);
            await db.Database.OpenConnectionAsync(TestContext.Current.CancellationToken);
            var handle = ((SqliteConnection)db.Database.GetDbConnection()).Handle;
            raw.sqlite3_prepare_v2(handle, "SELECT 1 UNION SELECT 2", out var left).ShouldBe(raw.SQLITE_OK);
            raw.sqlite3_step(left).ShouldBe(raw.SQLITE_ROW);
            await db.Database.CloseConnectionAsync();
            left.Dispose();
        }
        SqliteConnection.ClearAllPools();
    }
}
