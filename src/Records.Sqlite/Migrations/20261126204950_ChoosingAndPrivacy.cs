using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace YardRelay.Records.Sqlite.Migrations
{
    /// <inheritdoc />
    public partial class ChoosingAndPrivacy : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "Offer",
                table: "Swaps",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "KeepDays",
                table: "Refreshes",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "MostPerSlot",
                table: "Refreshes",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "ErasedAt",
                table: "People",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "Exchanges",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Asks = table.Column<string>(type: "TEXT", nullable: false),
                    AsksStart = table.Column<long>(type: "INTEGER", nullable: false),
                    Asked = table.Column<string>(type: "TEXT", nullable: false),
                    AskedStart = table.Column<long>(type: "INTEGER", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false),
                    End = table.Column<string>(type: "TEXT", nullable: true),
                    EndedAt = table.Column<long>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Exchanges", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Groups",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Key = table.Column<string>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Swaps = table.Column<string>(type: "TEXT", nullable: false),
                    AtOnce = table.Column<int>(type: "INTEGER", nullable: true),
                    OneDay = table.Column<bool>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Groups", x => new { x.Refresh, x.Key });
                });

            migrationBuilder.CreateTable(
                name: "Waits",
                columns: table => new
                {
                    Swap = table.Column<string>(type: "TEXT", nullable: false),
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    From = table.Column<long>(type: "INTEGER", nullable: false),
                    Until = table.Column<long>(type: "INTEGER", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Waits", x => x.Swap);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Exchanges_Asked_End",
                table: "Exchanges",
                columns: new[] { "Asked", "End" });

            migrationBuilder.CreateIndex(
                name: "IX_Exchanges_Asks_End",
                table: "Exchanges",
                columns: new[] { "Asks", "End" });

            migrationBuilder.CreateIndex(
                name: "IX_Waits_Refresh_At",
                table: "Waits",
                columns: new[] { "Refresh", "At" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "Exchanges");

            migrationBuilder.DropTable(
                name: "Groups");

            migrationBuilder.DropTable(
                name: "Waits");

            migrationBuilder.DropColumn(
                name: "Offer",
                table: "Swaps");

            migrationBuilder.DropColumn(
                name: "KeepDays",
                table: "Refreshes");

            migrationBuilder.DropColumn(
                name: "MostPerSlot",
                table: "Refreshes");

            migrationBuilder.DropColumn(
                name: "ErasedAt",
                table: "People");
        }
    }
}
