using System.Collections.Generic;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace YardRelay.Records.PostgreSql.Migrations
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
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<List<string>>(
                name: "Limits",
                table: "Sites",
                type: "text[]",
                nullable: false);

            migrationBuilder.AddColumn<List<string>>(
                name: "Limits",
                table: "Depots",
                type: "text[]",
                nullable: false);
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
