using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace YardRelay.Records.Sqlite.Migrations
{
    /// <inheritdoc />
    public partial class WaysOfParcels : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<long>(
                name: "ReceiverAcceptedAt",
                table: "Swaps",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "ReceiverAcceptedBy",
                table: "Swaps",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "ReceiverTag",
                table: "Swaps",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "RescuedFrom",
                table: "Swaps",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "RestoreSkipReason",
                table: "Swaps",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "RestoreSkippedAt",
                table: "Swaps",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "RestoreSkippedBy",
                table: "Swaps",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "Files",
                table: "Snags",
                type: "INTEGER",
                nullable: false,
                defaultValue: 1L);

            migrationBuilder.AddColumn<string>(
                name: "PlaceRules",
                table: "Refreshes",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "ByNeed",
                table: "Orders",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "Folder",
                table: "Orders",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Access",
                table: "Depots",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "FreeBytes",
                table: "Depots",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "HeardAt",
                table: "Depots",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Trouble",
                table: "Depots",
                type: "TEXT",
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
                name: "Files",
                table: "Snags");

            migrationBuilder.DropColumn(
                name: "PlaceRules",
                table: "Refreshes");

            migrationBuilder.DropColumn(
                name: "ByNeed",
                table: "Orders");

            migrationBuilder.DropColumn(
                name: "Folder",
                table: "Orders");

            migrationBuilder.DropColumn(
                name: "Access",
                table: "Depots");

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
