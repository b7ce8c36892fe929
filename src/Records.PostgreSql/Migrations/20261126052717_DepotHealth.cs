using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace YardRelay.Records.PostgreSql.Migrations
{
    /// <inheritdoc />
    public partial class DepotHealth : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<long>(
                name: "FreeBytes",
                table: "Depots",
                type: "bigint",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "HeardAt",
                table: "Depots",
                type: "bigint",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Trouble",
                table: "Depots",
                type: "text",
                nullable: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "FreeBytes",
                table: "Depots");

            migrationBuilder.DropColumn(
                name: "HeardAt",
                table: "Depots");

            migrationBuilder.DropColumn(
                name: "Trouble",
                table: "Depots");
        }
    }
}
