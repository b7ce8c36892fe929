using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace YardRelay.Records.PostgreSql.Migrations
{
    /// <inheritdoc />
    public partial class FewAmongMany : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateIndex(
                name: "IX_Swaps_LeftOut",
                table: "Swaps",
                column: "Refresh",
                filter: "\"LeftOutBecause\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Swaps_Refresh_End",
                table: "Swaps",
                columns: new[] { "Refresh", "End" },
                filter: "\"SwappedAt\" IS NULL AND \"AcceptedAt\" IS NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Swaps_Refresh_RestoredAt",
                table: "Swaps",
                columns: new[] { "Refresh", "RestoredAt" },
                filter: "\"RestoredAt\" IS NOT NULL AND \"AcceptedAt\" IS NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Orders_Refresh_State_Swap",
                table: "Orders",
                columns: new[] { "Refresh", "State", "Swap" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_Swaps_LeftOut",
                table: "Swaps");

            migrationBuilder.DropIndex(
                name: "IX_Swaps_Refresh_End",
                table: "Swaps");

            migrationBuilder.DropIndex(
                name: "IX_Swaps_Refresh_RestoredAt",
                table: "Swaps");

            migrationBuilder.DropIndex(
                name: "IX_Orders_Refresh_State_Swap",
                table: "Orders");
        }
    }
}
