using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace YardRelay.Records.PostgreSql.Migrations
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
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "ParcelState",
                table: "Snags",
                type: "text",
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
