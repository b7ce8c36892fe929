using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace YardRelay.Records.PostgreSql.Migrations
{
    /// <inheritdoc />
    public partial class Outcomes : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<long>(
                name: "ReceiverAcceptedAt",
                table: "Swaps",
                type: "bigint",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "ReceiverAcceptedBy",
                table: "Swaps",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "ReceiverTag",
                table: "Swaps",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "RescuedFrom",
                table: "Swaps",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "RestoreSkipReason",
                table: "Swaps",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "RestoreSkippedAt",
                table: "Swaps",
                type: "bigint",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "RestoreSkippedBy",
                table: "Swaps",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Folder",
                table: "Orders",
                type: "text",
                nullable: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "ReceiverAcceptedAt",
                table: "Swaps");

            migrationBuilder.DropColumn(
                name: "ReceiverAcceptedBy",
                table: "Swaps");

            migrationBuilder.DropColumn(
                name: "ReceiverTag",
                table: "Swaps");

            migrationBuilder.DropColumn(
                name: "RescuedFrom",
                table: "Swaps");

            migrationBuilder.DropColumn(
                name: "RestoreSkipReason",
                table: "Swaps");

            migrationBuilder.DropColumn(
                name: "RestoreSkippedAt",
                table: "Swaps");

            migrationBuilder.DropColumn(
                name: "RestoreSkippedBy",
                table: "Swaps");

            migrationBuilder.DropColumn(
                name: "Folder",
                table: "Orders");
        }
    }
}
