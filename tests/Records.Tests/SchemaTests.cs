using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using YardRelay.Core.Ledger;

namespace YardRelay.Records.Tests;

public sealed class SqliteSchemaTests(SqliteDatabases databases) : SchemaTests(databases), IClassFixture<SqliteDatabases>;

public sealed class PostgresSchemaTests(PostgresDatabases databases) : SchemaTests(databases), IClassFixture<PostgresDatabases>;

/// <summary>The tables of this version, in a new database and in one that an earlier version made.</summary>
public abstract class SchemaTests(Databases databases)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static async Task PrepareAsync(string connection)
    {
        await using var db = Databases.Open(connection);
        await Schema.PrepareAsync(db, Cancel);
    }

    private static Task RenameAsync(string connection, string last) => Databases.ExecuteAsync(
        connection,
        $"""UPDATE "__EFMigrationsHistory" SET "MigrationId" = '{last}' WHERE "MigrationId" LIKE '%FewAmongMany'""",
        Cancel);

    [Fact]
    public async Task The_first_migration_gives_the_tables_that_the_chain_before_it_gave()
    {
        var (fresh, taken) = (databases.Empty(), await databases.OfTheChainAsync(Cancel));
        await using (var db = Databases.Open(fresh))
            await db.GetService<IMigrator>().MigrateAsync(db.Database.GetMigrations().First(), Cancel);
        var chain = await databases.DescribeAsync(taken, Cancel);
        chain.Count.ShouldBeGreaterThan(300);
        (await databases.DescribeAsync(fresh, Cancel)).ShouldBe(chain);
    }

    [Fact]
    public async Task A_database_of_the_chain_ends_with_the_tables_of_a_new_one()
    {
        var (fresh, taken) = (databases.Empty(), await databases.OfTheChainAsync(Cancel));
        await PrepareAsync(fresh);
        await PrepareAsync(taken);
        (await databases.DescribeAsync(taken, Cancel)).ShouldBe(await databases.DescribeAsync(fresh, Cancel));
    }

    [Fact]
    public async Task A_database_of_the_chain_is_taken_over_with_all_that_it_holds()
    {
        var connection = await databases.OfTheChainAsync(Cancel);
        await PrepareAsync(connection);
        await using var db = Databases.Open(connection);
        (await db.Database.GetPendingMigrationsAsync(Cancel)).ShouldBeEmpty();
        (await db.Database.GetAppliedMigrationsAsync(Cancel)).ShouldBe(db.Database.GetMigrations());
        (await db.Swaps.Select(s => s.Name).ToListAsync(Cancel)).ShouldBe(["Ida Moreau", "Sol Okafor", "Per Lunde"], ignoreOrder: true);
        var ledger = await db.Ledger.OrderBy(l => l.Number).Select(l => new LedgerEntry(l.Number, l.Json, l.Sha256)).ToListAsync(Cancel);
        ledger.Count.ShouldBe(18);
        LedgerChain.Check(ledger, null).ShouldBeEmpty();
    }

    [Fact]
    public async Task Several_processes_that_start_at_once_take_it_over_once()
    {
        var connection = await databases.OfTheChainAsync(Cancel);
        await Task.WhenAll(Enumerable.Range(0, 3).Select(_ => Task.Run(() => PrepareAsync(connection), Cancel)));
        await PrepareAsync(connection);
        await using var db = Databases.Open(connection);
        (await db.Database.GetAppliedMigrationsAsync(Cancel)).ShouldBe(db.Database.GetMigrations());
    }

    [Fact]
    public async Task A_database_that_stopped_within_the_chain_is_refused_and_left_as_it_was()
    {
        var connection = await databases.OfTheChainAsync(Cancel);
        await RenameAsync(connection, "20261126215452_FileNames2");
        var before = await databases.DescribeAsync(connection, Cancel);
        var refused = await Should.ThrowAsync<StrangeDatabaseException>(() => PrepareAsync(connection));
        refused.Message.ShouldContain("last version of November");
        (await databases.DescribeAsync(connection, Cancel)).ShouldBe(before);
    }

    [Fact]
    public async Task A_database_of_a_newer_version_is_refused()
    {
        var connection = databases.Empty();
        await PrepareAsync(connection);
        await Databases.ExecuteAsync(
            connection,
            """INSERT INTO "__EFMigrationsHistory" ("MigrationId", "ProductVersion") VALUES ('29990101000000_Later', '10.0.12')""",
            Cancel);
        (await Should.ThrowAsync<StrangeDatabaseException>(() => PrepareAsync(connection))).Message.ShouldContain("newer version");
    }
}
