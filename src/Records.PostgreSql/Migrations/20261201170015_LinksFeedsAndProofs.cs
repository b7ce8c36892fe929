using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace YardRelay.Records.PostgreSql.Migrations
{
    /// <inheritdoc />
    public partial class LinksFeedsAndProofs : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "LedgerSignature",
                table: "Refreshes",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Way",
                table: "Links",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "Account",
                table: "Ledger",
                type: "text",
                nullable: true);

            // Until now the way was told by who made it.
            migrationBuilder.Sql(
                """
                UPDATE "Links" SET "Way" = CASE "MadeBy" WHEN 'the system' THEN 'mail' WHEN 'their organisation' THEN 'organisation' ELSE 'paper' END;
                """);

            migrationBuilder.CreateTable(
                name: "Feeds",
                columns: table => new
                {
                    Sha256 = table.Column<string>(type: "text", nullable: false),
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Site = table.Column<string>(type: "text", nullable: true),
                    Technician = table.Column<string>(type: "text", nullable: true),
                    Account = table.Column<string>(type: "text", nullable: false),
                    MadeAt = table.Column<long>(type: "bigint", nullable: false),
                    ReadAt = table.Column<long>(type: "bigint", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Feeds", x => x.Sha256);
                });

            migrationBuilder.CreateTable(
                name: "Services",
                columns: table => new
                {
                    Key = table.Column<string>(type: "text", nullable: false),
                    LedgerNumber = table.Column<long>(type: "bigint", nullable: false),
                    LedgerSha256 = table.Column<string>(type: "text", nullable: false),
                    LedgerSignature = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Services", x => x.Key);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Feeds_Refresh_MadeAt",
                table: "Feeds",
                columns: new[] { "Refresh", "MadeAt" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "Feeds");

            migrationBuilder.DropTable(
                name: "Services");

            migrationBuilder.DropColumn(
                name: "LedgerSignature",
                table: "Refreshes");

            migrationBuilder.DropColumn(
                name: "Way",
                table: "Links");

            migrationBuilder.DropColumn(
                name: "Account",
                table: "Ledger");
        }
    }
}
