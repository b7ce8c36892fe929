using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace YardRelay.Records.Sqlite.Migrations
{
    /// <inheritdoc />
    public partial class Limits : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "ParcelId",
                table: "Swaps",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Limits",
                table: "Sites",
                type: "TEXT",
                nullable: false,
                defaultValue: "[]");

            migrationBuilder.AddColumn<string>(
                name: "Limits",
                table: "Depots",
                type: "TEXT",
                nullable: false,
                defaultValue: "[]");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "ParcelId",
                table: "Swaps");

            migrationBuilder.DropColumn(
                name: "Limits",
                table: "Sites");

            migrationBuilder.DropColumn(
                name: "Limits",
                table: "Depots");
        }
    }
}
