using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace YardRelay.Records.Sqlite.Migrations
{
    /// <inheritdoc />
    public partial class ParcelState : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "ParcelState",
                table: "Swaps",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "ParcelState",
                table: "Snags",
                type: "TEXT",
                nullable: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "ParcelState",
                table: "Swaps");

            migrationBuilder.DropColumn(
                name: "ParcelState",
                table: "Snags");
        }
    }
}
