using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using YardRelay.Records;

namespace YardRelay.Service.Privacy;

/// <summary>
/// What was deleted or corrected still lies in the unused bytes of an SQLite file and in the log beside it, also what went long before
/// anybody asked for erasure. An erasure owes that the file is written anew; the debt stands in the file itself (<c>user_version</c>),
/// with the erasure or not at all, so that a kill or a full disk between the two is made good by the next look.
/// On PostgreSQL its own vacuum does that, see the page on operations.
/// </summary>
internal static class UnusedBytes
{
    /// <summary>Within the change that erases: the file is to be written anew.</summary>
    public static async Task OweAsync(YardDb db, CancellationToken cancel)
    {
        if (db.IsPostgres) return;
        await db.Database.ExecuteSqlRawAsync("PRAGMA secure_delete = ON", cancel);
        await db.Database.ExecuteSqlRawAsync("PRAGMA user_version = 1", cancel);
    }

    /// <summary>
    /// Writes the file anew where that is owed. Outside of any transaction. Null where it owes nothing now; else why it still does:
    /// somebody reads what was for longer than the database waits, the disk is full.
    /// </summary>
    public static async Task<string?> SettleAsync(YardDb db, CancellationToken cancel)
    {
        if (db.IsPostgres || await NumberAsync(db, "PRAGMA user_version", cancel) == 0) return null;
        try
        {
            await db.Database.ExecuteSqlRawAsync("VACUUM", cancel);
            if (await NumberAsync(db, "PRAGMA wal_checkpoint(TRUNCATE)", cancel) != 0) return "something else reads it";
            await db.Database.ExecuteSqlRawAsync("PRAGMA user_version = 0", cancel);
            return null;
        }
        catch (SqliteException broke)
        {
            return broke.Message;
        }
    }

    /// <summary>The first column of the first row.</summary>
    private static async Task<long> NumberAsync(YardDb db, string sql, CancellationToken cancel)
    {
        await db.Database.OpenConnectionAsync(cancel);
        try
        {
            await using var command = db.Database.GetDbConnection().CreateCommand();
            command.CommandText = sql;
            return (long)(await command.ExecuteScalarAsync(cancel))!;
        }
        finally
        {
            await db.Database.CloseConnectionAsync();
        }
    }
}
