using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace YardRelay.Records.Sqlite.Migrations
{
    /// <inheritdoc />
    public partial class GuessesAndReach : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            // By these words a column goes within the transaction; else the table would be made anew in steps, of which a kill leaves some.
            migrationBuilder.Sql("""ALTER TABLE "Accounts" DROP COLUMN "Failures";""");
            migrationBuilder.Sql("""ALTER TABLE "Accounts" DROP COLUMN "LockedUntil";""");

            migrationBuilder.AddColumn<string>(
                name: "Refreshes",
                table: "Accounts",
                type: "TEXT",
                nullable: false,
                defaultValue: "[]");

            migrationBuilder.CreateTable(
                name: "Guesses",
                columns: table => new
                {
                    Of = table.Column<string>(type: "TEXT", nullable: false),
                    Count = table.Column<int>(type: "INTEGER", nullable: false),
                    Since = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Guesses", x => x.Of);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Guesses_Since",
                table: "Guesses",
                column: "Since");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "Guesses");

            migrationBuilder.DropColumn(
                name: "Refreshes",
                table: "Accounts");

            migrationBuilder.AddColumn<int>(
                name: "Failures",
                table: "Accounts",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<long>(
                name: "LockedUntil",
                table: "Accounts",
                type: "INTEGER",
                nullable: true);
        }
    }
}
