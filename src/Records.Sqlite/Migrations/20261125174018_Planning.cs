using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace YardRelay.Records.Sqlite.Migrations
{
    /// <inheritdoc />
    public partial class Planning : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "Absences",
                table: "Technicians",
                type: "TEXT",
                nullable: false,
                defaultValue: "[]");

            migrationBuilder.AddColumn<string>(
                name: "Skills",
                table: "Technicians",
                type: "TEXT",
                nullable: false,
                defaultValue: "[]");

            migrationBuilder.AddColumn<string>(
                name: "Accounts",
                table: "Swaps",
                type: "TEXT",
                nullable: false,
                defaultValue: "[]");

            migrationBuilder.AddColumn<long>(
                name: "BenchEnd",
                table: "Swaps",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "BenchHandsOnUntil",
                table: "Swaps",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "BenchStart",
                table: "Swaps",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "BenchTechnician",
                table: "Swaps",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<DateOnly>(
                name: "Closes",
                table: "Swaps",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "PinnedStart",
                table: "Swaps",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "PinnedTechnician",
                table: "Swaps",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Preferred",
                table: "Swaps",
                type: "TEXT",
                nullable: false,
                defaultValue: "[]");

            migrationBuilder.AddColumn<int>(
                name: "Sequence",
                table: "Swaps",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<string>(
                name: "Skills",
                table: "Swaps",
                type: "TEXT",
                nullable: false,
                defaultValue: "[]");

            migrationBuilder.AddColumn<string>(
                name: "Wave",
                table: "Swaps",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "Weight",
                table: "Swaps",
                type: "INTEGER",
                nullable: false,
                defaultValue: 5);

            migrationBuilder.AddColumn<string>(
                name: "Opens",
                table: "Sites",
                type: "TEXT",
                nullable: false,
                defaultValue: "daily 07:00-19:00");

            migrationBuilder.AddColumn<string>(
                name: "Rooms",
                table: "Sites",
                type: "TEXT",
                nullable: false,
                defaultValue: "[]");

            migrationBuilder.AddColumn<int>(
                name: "LastPlan",
                table: "Refreshes",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<long>(
                name: "WorldVersion",
                table: "Refreshes",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<double>(
                name: "BytesPerSecond",
                table: "Depots",
                type: "REAL",
                nullable: false,
                defaultValue: 0.0);

            migrationBuilder.AddColumn<long>(
                name: "CapacityBytes",
                table: "Depots",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "DailyBytes",
                table: "Depots",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "HoldDays",
                table: "Depots",
                type: "INTEGER",
                nullable: false,
                defaultValue: 14);

            migrationBuilder.AddColumn<int>(
                name: "Observed",
                table: "Depots",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.CreateTable(
                name: "Closures",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Key = table.Column<string>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Site = table.Column<string>(type: "TEXT", nullable: true),
                    At = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Closures", x => new { x.Refresh, x.Key });
                });

            migrationBuilder.CreateTable(
                name: "Columns",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Head = table.Column<string>(type: "TEXT", nullable: false),
                    Column = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Columns", x => new { x.Refresh, x.Head });
                });

            migrationBuilder.CreateTable(
                name: "Deliveries",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Key = table.Column<string>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Arrives = table.Column<string>(type: "TEXT", nullable: false),
                    Tags = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Deliveries", x => new { x.Refresh, x.Key });
                });

            migrationBuilder.CreateTable(
                name: "Estimates",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Scope = table.Column<string>(type: "TEXT", nullable: false),
                    Of = table.Column<string>(type: "TEXT", nullable: false),
                    BeforeMinutes = table.Column<int>(type: "INTEGER", nullable: true),
                    UnattendedMinutes = table.Column<int>(type: "INTEGER", nullable: true),
                    AfterMinutes = table.Column<int>(type: "INTEGER", nullable: true),
                    HasBench = table.Column<bool>(type: "INTEGER", nullable: false),
                    BenchSite = table.Column<string>(type: "TEXT", nullable: true),
                    BenchHandsOnMinutes = table.Column<int>(type: "INTEGER", nullable: false),
                    BenchUnattendedMinutes = table.Column<int>(type: "INTEGER", nullable: false),
                    BenchGapMinutes = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Estimates", x => new { x.Refresh, x.Scope, x.Of });
                });

            migrationBuilder.CreateTable(
                name: "Plans",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Number = table.Column<int>(type: "INTEGER", nullable: false),
                    State = table.Column<string>(type: "TEXT", nullable: false),
                    Version = table.Column<int>(type: "INTEGER", nullable: false),
                    BasedOn = table.Column<int>(type: "INTEGER", nullable: false),
                    MadeBy = table.Column<string>(type: "TEXT", nullable: false),
                    MadeAt = table.Column<long>(type: "INTEGER", nullable: false),
                    PublishedBy = table.Column<string>(type: "TEXT", nullable: true),
                    PublishedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    Placed = table.Column<int>(type: "INTEGER", nullable: false),
                    LeftOut = table.Column<int>(type: "INTEGER", nullable: false),
                    Cost = table.Column<int>(type: "INTEGER", nullable: false),
                    Body = table.Column<string>(type: "TEXT", nullable: false),
                    Moves = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Plans", x => new { x.Refresh, x.Number });
                });

            migrationBuilder.CreateTable(
                name: "Takings",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Number = table.Column<int>(type: "INTEGER", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false),
                    Added = table.Column<int>(type: "INTEGER", nullable: false),
                    Changed = table.Column<int>(type: "INTEGER", nullable: false),
                    Before = table.Column<string>(type: "TEXT", nullable: false),
                    UndoneAt = table.Column<long>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Takings", x => new { x.Refresh, x.Number });
                });

            migrationBuilder.CreateTable(
                name: "Waves",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Key = table.Column<string>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    From = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Until = table.Column<DateOnly>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Waves", x => new { x.Refresh, x.Key });
                });

            migrationBuilder.CreateTable(
                name: "Ways",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    From = table.Column<string>(type: "TEXT", nullable: false),
                    To = table.Column<string>(type: "TEXT", nullable: false),
                    Minutes = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Ways", x => new { x.Refresh, x.From, x.To });
                });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "Closures");

            migrationBuilder.DropTable(
                name: "Columns");

            migrationBuilder.DropTable(
                name: "Deliveries");

            migrationBuilder.DropTable(
                name: "Estimates");

            migrationBuilder.DropTable(
                name: "Plans");

            migrationBuilder.DropTable(
                name: "Takings");

            migrationBuilder.DropTable(
                name: "Waves");

            migrationBuilder.DropTable(
                name: "Ways");

            migrationBuilder.DropColumn(
                name: "Absences",
                table: "Technicians");

            migrationBuilder.DropColumn(
                name: "Skills",
                table: "Technicians");

            migrationBuilder.DropColumn(
                name: "Accounts",
                table: "Swaps");

            migrationBuilder.DropColumn(
                name: "BenchEnd",
                table: "Swaps");

            migrationBuilder.DropColumn(
                name: "BenchHandsOnUntil",
                table: "Swaps");

            migrationBuilder.DropColumn(
                name: "BenchStart",
                table: "Swaps");

            migrationBuilder.DropColumn(
                name: "BenchTechnician",
                table: "Swaps");

            migrationBuilder.DropColumn(
                name: "Closes",
                table: "Swaps");

            migrationBuilder.DropColumn(
                name: "PinnedStart",
                table: "Swaps");

            migrationBuilder.DropColumn(
                name: "PinnedTechnician",
                table: "Swaps");

            migrationBuilder.DropColumn(
                name: "Preferred",
                table: "Swaps");

            migrationBuilder.DropColumn(
                name: "Sequence",
                table: "Swaps");

            migrationBuilder.DropColumn(
                name: "Skills",
                table: "Swaps");

            migrationBuilder.DropColumn(
                name: "Wave",
                table: "Swaps");

            migrationBuilder.DropColumn(
                name: "Weight",
                table: "Swaps");

            migrationBuilder.DropColumn(
                name: "Opens",
                table: "Sites");

            migrationBuilder.DropColumn(
                name: "Rooms",
                table: "Sites");

            migrationBuilder.DropColumn(
                name: "LastPlan",
                table: "Refreshes");

            migrationBuilder.DropColumn(
                name: "WorldVersion",
                table: "Refreshes");

            migrationBuilder.DropColumn(
                name: "BytesPerSecond",
                table: "Depots");

            migrationBuilder.DropColumn(
                name: "CapacityBytes",
                table: "Depots");

            migrationBuilder.DropColumn(
                name: "DailyBytes",
                table: "Depots");

            migrationBuilder.DropColumn(
                name: "HoldDays",
                table: "Depots");

            migrationBuilder.DropColumn(
                name: "Observed",
                table: "Depots");
        }
    }
}
