using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace YardRelay.Records.PostgreSql.Migrations
{
    /// <inheritdoc />
    public partial class SourceDoubts : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "Doubt",
                table: "Snags",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Verdict",
                table: "Snags",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "GoneBytes",
                table: "Folders",
                type: "bigint",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<long>(
                name: "GoneFiles",
                table: "Folders",
                type: "bigint",
                nullable: false,
                defaultValue: 0L);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "Doubt",
                table: "Snags");

            migrationBuilder.DropColumn(
                name: "Verdict",
                table: "Snags");

            migrationBuilder.DropColumn(
                name: "GoneBytes",
                table: "Folders");

            migrationBuilder.DropColumn(
                name: "GoneFiles",
                table: "Folders");
        }
    }
}
