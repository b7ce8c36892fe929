using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace YardRelay.Records.PostgreSql.Migrations
{
    /// <inheritdoc />
    public partial class BesideOrders : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<bool>(
                name: "Beside",
                table: "Orders",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<long>(
                name: "PausedAt",
                table: "Orders",
                type: "bigint",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Waits",
                table: "Orders",
                type: "text",
                nullable: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "Beside",
                table: "Orders");

            migrationBuilder.DropColumn(
                name: "PausedAt",
                table: "Orders");

            migrationBuilder.DropColumn(
                name: "Waits",
                table: "Orders");
        }
    }
}
