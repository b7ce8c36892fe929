using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace YardRelay.Records.Sqlite.Migrations
{
    /// <inheritdoc />
    public partial class DayOfTheSwap : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "Drawn",
                table: "SignOffs",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Witness",
                table: "SignOffs",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "OldHoldDays",
                table: "Refreshes",
                type: "INTEGER",
                nullable: false,
                defaultValue: 14);

            migrationBuilder.CreateTable(
                name: "Custody",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Tag = table.Column<string>(type: "TEXT", nullable: false),
                    Act = table.Column<string>(type: "TEXT", nullable: false),
                    Where = table.Column<string>(type: "TEXT", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false),
                    Recorded = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Custody", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "FollowUps",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Swap = table.Column<string>(type: "TEXT", nullable: false),
                    Words = table.Column<string>(type: "TEXT", nullable: false),
                    Owner = table.Column<string>(type: "TEXT", nullable: false),
                    Due = table.Column<long>(type: "INTEGER", nullable: false),
                    Holds = table.Column<string>(type: "TEXT", nullable: false),
                    Cause = table.Column<string>(type: "TEXT", nullable: false),
                    MadeBy = table.Column<string>(type: "TEXT", nullable: false),
                    MadeAt = table.Column<long>(type: "INTEGER", nullable: false),
                    DoneBy = table.Column<string>(type: "TEXT", nullable: true),
                    DoneAt = table.Column<long>(type: "INTEGER", nullable: true),
                    Outcome = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_FollowUps", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Handovers",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Swap = table.Column<string>(type: "TEXT", nullable: false),
                    From = table.Column<string>(type: "TEXT", nullable: false),
                    To = table.Column<string>(type: "TEXT", nullable: false),
                    Note = table.Column<string>(type: "TEXT", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Handovers", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "OldComputers",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Tag = table.Column<string>(type: "TEXT", nullable: false),
                    Swap = table.Column<string>(type: "TEXT", nullable: false),
                    Holder = table.Column<string>(type: "TEXT", nullable: true),
                    Place = table.Column<string>(type: "TEXT", nullable: true),
                    Pallet = table.Column<string>(type: "TEXT", nullable: true),
                    MovedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    End = table.Column<string>(type: "TEXT", nullable: true),
                    EndedTo = table.Column<string>(type: "TEXT", nullable: true),
                    WipeMethod = table.Column<string>(type: "TEXT", nullable: true),
                    WipeResult = table.Column<string>(type: "TEXT", nullable: true),
                    WipeEvidence = table.Column<string>(type: "TEXT", nullable: true),
                    WipedBy = table.Column<string>(type: "TEXT", nullable: true),
                    WipedAt = table.Column<long>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_OldComputers", x => new { x.Refresh, x.Tag });
                });

            migrationBuilder.CreateIndex(
                name: "IX_Swaps_Refresh_Site_Kind_Next_Wave_Technician_Start_End_AcceptedAt",
                table: "Swaps",
                columns: new[] { "Refresh", "Site", "Kind", "Next", "Wave", "Technician", "Start", "End", "AcceptedAt" });

            migrationBuilder.CreateIndex(
                name: "IX_Custody_Refresh_Tag_At",
                table: "Custody",
                columns: new[] { "Refresh", "Tag", "At" });

            migrationBuilder.CreateIndex(
                name: "IX_FollowUps_Refresh_DoneAt_Due",
                table: "FollowUps",
                columns: new[] { "Refresh", "DoneAt", "Due" });

            migrationBuilder.CreateIndex(
                name: "IX_FollowUps_Swap_DoneAt",
                table: "FollowUps",
                columns: new[] { "Swap", "DoneAt" });

            migrationBuilder.CreateIndex(
                name: "IX_Handovers_Swap_At",
                table: "Handovers",
                columns: new[] { "Swap", "At" });

            migrationBuilder.CreateIndex(
                name: "IX_OldComputers_Refresh_Pallet",
                table: "OldComputers",
                columns: new[] { "Refresh", "Pallet" });

            migrationBuilder.CreateIndex(
                name: "IX_OldComputers_Swap",
                table: "OldComputers",
                column: "Swap");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "Custody");

            migrationBuilder.DropTable(
                name: "FollowUps");

            migrationBuilder.DropTable(
                name: "Handovers");

            migrationBuilder.DropTable(
                name: "OldComputers");

            migrationBuilder.DropIndex(
                name: "IX_Swaps_Refresh_Site_Kind_Next_Wave_Technician_Start_End_AcceptedAt",
                table: "Swaps");

            migrationBuilder.DropColumn(
                name: "Drawn",
                table: "SignOffs");

            migrationBuilder.DropColumn(
                name: "Witness",
                table: "SignOffs");

            migrationBuilder.DropColumn(
                name: "OldHoldDays",
                table: "Refreshes");
        }
    }
}
