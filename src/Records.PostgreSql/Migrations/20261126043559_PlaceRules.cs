using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace YardRelay.Records.PostgreSql.Migrations
{
    /// <inheritdoc />
    public partial class PlaceRules : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "PlaceRules",
                table: "Refreshes",
                type: "text",
                nullable: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "PlaceRules",
                table: "Refreshes");
        }
    }
}
