using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace YardRelay.Records.PostgreSql.Migrations
{
    /// <inheritdoc />
    public partial class WhatGoesOtherwise : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_Swaps_Refresh_Site_Kind_Next_Wave_Technician_Start_End_Acce~",
                table: "Swaps");

            migrationBuilder.AddColumn<long>(
                name: "CalledOffAt",
                table: "Swaps",
                type: "bigint",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "CalledOffBecause",
                table: "Swaps",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "Missed",
                table: "Swaps",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<string>(
                name: "NewPlatform",
                table: "Swaps",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "OldDiedAt",
                table: "Swaps",
                type: "bigint",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "OldPlatform",
                table: "Swaps",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "Prepared",
                table: "Swaps",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<long>(
                name: "UrgentReadyAt",
                table: "Swaps",
                type: "bigint",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Role",
                table: "People",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "VisitEnd",
                table: "FollowUps",
                type: "bigint",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "VisitMinutes",
                table: "FollowUps",
                type: "integer",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "VisitStart",
                table: "FollowUps",
                type: "bigint",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "VisitTechnician",
                table: "FollowUps",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "NewComputer",
                table: "Cargo",
                type: "text",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "Detours",
                columns: table => new
                {
                    Id = table.Column<string>(type: "text", nullable: false),
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Swap = table.Column<string>(type: "text", nullable: false),
                    Kind = table.Column<string>(type: "text", nullable: false),
                    Words = table.Column<string>(type: "text", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false),
                    At = table.Column<long>(type: "bigint", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Detours", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Photos",
                columns: table => new
                {
                    Sha256 = table.Column<string>(type: "text", nullable: false),
                    Swap = table.Column<string>(type: "text", nullable: false),
                    Step = table.Column<string>(type: "text", nullable: false),
                    Kind = table.Column<string>(type: "text", nullable: false),
                    Width = table.Column<int>(type: "integer", nullable: false),
                    Height = table.Column<int>(type: "integer", nullable: false),
                    Content = table.Column<byte[]>(type: "bytea", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false),
                    At = table.Column<long>(type: "bigint", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Photos", x => new { x.Swap, x.Step, x.Sha256 });
                });

            migrationBuilder.CreateTable(
                name: "Spares",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Key = table.Column<string>(type: "text", nullable: false),
                    Model = table.Column<string>(type: "text", nullable: true),
                    Site = table.Column<string>(type: "text", nullable: false),
                    Trouble = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Spares", x => new { x.Refresh, x.Key });
                });

            migrationBuilder.CreateIndex(
                name: "IX_Swaps_Refresh_Site_Kind_Next_Wave_Technician_Start_End_Acce~",
                table: "Swaps",
                columns: new[] { "Refresh", "Site", "Kind", "Next", "Wave", "Technician", "Start", "End", "AcceptedAt", "CalledOffAt" });

            migrationBuilder.CreateIndex(
                name: "IX_Detours_Swap_At",
                table: "Detours",
                columns: new[] { "Swap", "At" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "Detours");

            migrationBuilder.DropTable(
                name: "Photos");

            migrationBuilder.DropTable(
                name: "Spares");

            migrationBuilder.DropIndex(
                name: "IX_Swaps_Refresh_Site_Kind_Next_Wave_Technician_Start_End_Acce~",
                table: "Swaps");

            migrationBuilder.DropColumn(
                name: "CalledOffAt",
                table: "Swaps");

            migrationBuilder.DropColumn(
                name: "CalledOffBecause",
                table: "Swaps");

            migrationBuilder.DropColumn(
                name: "Missed",
                table: "Swaps");

            migrationBuilder.DropColumn(
                name: "NewPlatform",
                table: "Swaps");

            migrationBuilder.DropColumn(
                name: "OldDiedAt",
                table: "Swaps");

            migrationBuilder.DropColumn(
                name: "OldPlatform",
                table: "Swaps");

            migrationBuilder.DropColumn(
                name: "Prepared",
                table: "Swaps");

            migrationBuilder.DropColumn(
                name: "UrgentReadyAt",
                table: "Swaps");

            migrationBuilder.DropColumn(
                name: "Role",
                table: "People");

            migrationBuilder.DropColumn(
                name: "VisitEnd",
                table: "FollowUps");

            migrationBuilder.DropColumn(
                name: "VisitMinutes",
                table: "FollowUps");

            migrationBuilder.DropColumn(
                name: "VisitStart",
                table: "FollowUps");

            migrationBuilder.DropColumn(
                name: "VisitTechnician",
                table: "FollowUps");

            migrationBuilder.DropColumn(
                name: "NewComputer",
                table: "Cargo");

            migrationBuilder.CreateIndex(
                name: "IX_Swaps_Refresh_Site_Kind_Next_Wave_Technician_Start_End_Acce~",
                table: "Swaps",
                columns: new[] { "Refresh", "Site", "Kind", "Next", "Wave", "Technician", "Start", "End", "AcceptedAt" });
        }
    }
}
