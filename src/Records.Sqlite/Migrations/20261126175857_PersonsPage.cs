using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace YardRelay.Records.Sqlite.Migrations
{
    /// <inheritdoc />
    public partial class PersonsPage : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<long>(
                name: "ChosenAt",
                table: "Swaps",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "ChooseHours",
                table: "Refreshes",
                type: "INTEGER",
                nullable: false,
                defaultValue: 24);

            migrationBuilder.AddColumn<string>(
                name: "Language",
                table: "People",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "MailOff",
                table: "People",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.CreateTable(
                name: "LinkRefusals",
                columns: table => new
                {
                    Day = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Cause = table.Column<string>(type: "TEXT", nullable: false),
                    Count = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_LinkRefusals", x => new { x.Day, x.Cause });
                });

            migrationBuilder.CreateTable(
                name: "Links",
                columns: table => new
                {
                    Sha256 = table.Column<string>(type: "TEXT", nullable: false),
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Swap = table.Column<string>(type: "TEXT", nullable: false),
                    MadeBy = table.Column<string>(type: "TEXT", nullable: false),
                    MadeAt = table.Column<long>(type: "INTEGER", nullable: false),
                    Expires = table.Column<long>(type: "INTEGER", nullable: false),
                    WithdrawnAt = table.Column<long>(type: "INTEGER", nullable: true),
                    OpenedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    SeenAt = table.Column<long>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Links", x => x.Sha256);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Links_Swap_MadeAt",
                table: "Links",
                columns: new[] { "Swap", "MadeAt" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "LinkRefusals");

            migrationBuilder.DropTable(
                name: "Links");

            migrationBuilder.DropColumn(
                name: "ChosenAt",
                table: "Swaps");

            migrationBuilder.DropColumn(
                name: "ChooseHours",
                table: "Refreshes");

            migrationBuilder.DropColumn(
                name: "Language",
                table: "People");

            migrationBuilder.DropColumn(
                name: "MailOff",
                table: "People");
        }
    }
}
