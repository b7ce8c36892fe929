using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace YardRelay.Records.PostgreSql.Migrations
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
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Witness",
                table: "SignOffs",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "OldHoldDays",
                table: "Refreshes",
                type: "integer",
                nullable: false,
                defaultValue: 14);

            migrationBuilder.CreateTable(
                name: "Custody",
                columns: table => new
                {
                    Id = table.Column<string>(type: "text", nullable: false),
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Tag = table.Column<string>(type: "text", nullable: false),
                    Act = table.Column<string>(type: "text", nullable: false),
                    Where = table.Column<string>(type: "text", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false),
                    At = table.Column<long>(type: "bigint", nullable: false),
                    Recorded = table.Column<long>(type: "bigint", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Custody", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "FollowUps",
                columns: table => new
                {
                    Id = table.Column<string>(type: "text", nullable: false),
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Swap = table.Column<string>(type: "text", nullable: false),
                    Words = table.Column<string>(type: "text", nullable: false),
                    Owner = table.Column<string>(type: "text", nullable: false),
                    Due = table.Column<long>(type: "bigint", nullable: false),
                    Holds = table.Column<string>(type: "text", nullable: false),
                    Cause = table.Column<string>(type: "text", nullable: false),
                    MadeBy = table.Column<string>(type: "text", nullable: false),
                    MadeAt = table.Column<long>(type: "bigint", nullable: false),
                    DoneBy = table.Column<string>(type: "text", nullable: true),
                    DoneAt = table.Column<long>(type: "bigint", nullable: true),
                    Outcome = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_FollowUps", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Handovers",
                columns: table => new
                {
                    Id = table.Column<string>(type: "text", nullable: false),
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Swap = table.Column<string>(type: "text", nullable: false),
                    From = table.Column<string>(type: "text", nullable: false),
                    To = table.Column<string>(type: "text", nullable: false),
                    Note = table.Column<string>(type: "text", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false),
                    At = table.Column<long>(type: "bigint", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Handovers", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "OldComputers",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Tag = table.Column<string>(type: "text", nullable: false),
                    Swap = table.Column<string>(type: "text", nullable: false),
                    Holder = table.Column<string>(type: "text", nullable: true),
                    Place = table.Column<string>(type: "text", nullable: true),
                    Pallet = table.Column<string>(type: "text", nullable: true),
                    MovedAt = table.Column<long>(type: "bigint", nullable: true),
                    End = table.Column<string>(type: "text", nullable: true),
                    EndedTo = table.Column<string>(type: "text", nullable: true),
                    WipeMethod = table.Column<string>(type: "text", nullable: true),
                    WipeResult = table.Column<string>(type: "text", nullable: true),
                    WipeEvidence = table.Column<string>(type: "text", nullable: true),
                    WipedBy = table.Column<string>(type: "text", nullable: true),
                    WipedAt = table.Column<long>(type: "bigint", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_OldComputers", x => new { x.Refresh, x.Tag });
                });

            migrationBuilder.CreateIndex(
                name: "IX_Swaps_Refresh_Site_Kind_Next_Wave_Technician_Start_End_Acce~",
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
                name: "IX_Swaps_Refresh_Site_Kind_Next_Wave_Technician_Start_End_Acce~",
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
