using System.Data.Common;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;

namespace YardRelay.Records;

/// <summary>Brings a database to the tables of this version, whoever made it.</summary>
public static class Schema
{
    // The chain of migrations up to November 2026 was put together into one first migration, which gives the same tables.
    // A database is known by the last of them; its name is the same on both kinds, behind the instant at which it was made.
    private const string LastOfTheChain = "_FewAmongMany";

    // Any number that nobody else takes: "yard" in ASCII.
    private const long Changing = 0x79617264;

    /// <summary>Makes or changes the tables. May be called by several processes at once, and again.</summary>
    /// <param name="db">Where they stand.</param>
    /// <param name="cancel">Stops before the next change; what was done stays.</param>
    /// <exception cref="StrangeDatabaseException">The database was made by another version that this one cannot go on from.</exception>
    public static async Task PrepareAsync(YardDb db, CancellationToken cancel)
    {
        // Where there is no database at all yet, there is nothing to hold, either.
        if (!db.IsPostgres || !await db.Database.CanConnectAsync(cancel))
        {
            await ChangeAsync(db, cancel);
            return;
        }
        // A migrator's own lock there lasts for one migration; of several, two processes would make the same.
        await db.Database.OpenConnectionAsync(cancel);
        try
        {
            await db.Database.ExecuteSqlAsync($"SELECT pg_advisory_lock({Changing})", cancel);
            await ChangeAsync(db, cancel);
        }
        finally
        {
            await db.Database.ExecuteSqlAsync($"SELECT pg_advisory_unlock({Changing})", CancellationToken.None);
            await db.Database.CloseConnectionAsync();
        }
    }

    private static async Task ChangeAsync(YardDb db, CancellationToken cancel)
    {
        var known = db.Database.GetMigrations().ToList();
        var applied = await AppliedAsync(db, cancel);
        var strange = applied.Except(known).ToList();
        if (strange.Exists(m => m.EndsWith(LastOfTheChain, StringComparison.Ordinal))) await TakeOverAsync(db, known[0], strange, cancel);
        else if (strange.Count > 0 && !applied.Contains(known[0]))
            throw new StrangeDatabaseException(
                $"The database was last changed by '{strange[^1]}', before tables were put together. Start the last version of November "
                    + "2026 on it once, then this one.");
        else if (strange.Count > 0)
            throw new StrangeDatabaseException(
                $"The database was changed by a newer version ('{strange[^1]}'). Start that one; an older one would damage what it holds.");
        await db.Database.MigrateAsync(cancel);
    }

    private static async Task<List<string>> AppliedAsync(YardDb db, CancellationToken cancel)
    {
        try
        {
            return [.. await db.Database.GetAppliedMigrationsAsync(cancel)];
        }
        // Where there is no database at all yet, MigrateAsync makes it.
        catch (DbException) when (!db.Database.CanConnect())
        {
            return [];
        }
    }

    /// <summary>The old names make way for the one that stands for them all. Two processes at once write the same.</summary>
    private static async Task TakeOverAsync(YardDb db, string first, List<string> chain, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        foreach (var old in chain)
            await db.Database.ExecuteSqlAsync($"""DELETE FROM "__EFMigrationsHistory" WHERE "MigrationId" = {old}""", cancel);
        await db.Database.ExecuteSqlAsync(
            $"""
             INSERT INTO "__EFMigrationsHistory" ("MigrationId", "ProductVersion") VALUES ({first}, {ProductInfo.GetVersion()})
             ON CONFLICT DO NOTHING
             """,
            cancel);
        await transaction.CommitAsync(cancel);
    }
}
