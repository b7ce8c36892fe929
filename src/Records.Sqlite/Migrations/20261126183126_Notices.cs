using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace YardRelay.Records.Sqlite.Migrations
{
    /// <inheritdoc />
    public partial class Notices : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<long>(
                name: "NoticesSince",
                table: "Refreshes",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "NoticeTexts",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Moment = table.Column<string>(type: "TEXT", nullable: false),
                    Language = table.Column<string>(type: "TEXT", nullable: false),
                    Text = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_NoticeTexts", x => new { x.Refresh, x.Moment, x.Language });
                });

            migrationBuilder.CreateTable(
                name: "Notices",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Swap = table.Column<string>(type: "TEXT", nullable: false),
                    Key = table.Column<string>(type: "TEXT", nullable: false),
                    Moment = table.Column<string>(type: "TEXT", nullable: false),
                    Language = table.Column<string>(type: "TEXT", nullable: false),
                    To = table.Column<string>(type: "TEXT", nullable: false),
                    Subject = table.Column<string>(type: "TEXT", nullable: false),
                    Start = table.Column<long>(type: "INTEGER", nullable: true),
                    MadeAt = table.Column<long>(type: "INTEGER", nullable: false),
                    LastUseful = table.Column<long>(type: "INTEGER", nullable: false),
                    TryAt = table.Column<long>(type: "INTEGER", nullable: true),
                    HandedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    Tries = table.Column<int>(type: "INTEGER", nullable: false),
                    SentAt = table.Column<long>(type: "INTEGER", nullable: true),
                    BouncedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    Trouble = table.Column<string>(type: "TEXT", nullable: true),
                    Link = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Notices", x => x.Id);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Notices_Refresh_TryAt",
                table: "Notices",
                columns: new[] { "Refresh", "TryAt" });

            migrationBuilder.CreateIndex(
                name: "IX_Notices_Swap_Key",
                table: "Notices",
                columns: new[] { "Swap", "Key" },
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "NoticeTexts");

            migrationBuilder.DropTable(
                name: "Notices");

            migrationBuilder.DropColumn(
                name: "NoticesSince",
                table: "Refreshes");
        }
    }
}
