using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace YardRelay.Records.Sqlite.Migrations
{
    /// <inheritdoc />
    public partial class Parcels : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<long>(
                name: "PurgedAt",
                table: "Swaps",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Landing",
                table: "Orders",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<DateOnly>(
                name: "EndsOn",
                table: "Depots",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "SealTo",
                table: "Depots",
                type: "TEXT",
                nullable: false,
                defaultValue: "[]");

            migrationBuilder.AddColumn<string>(
                name: "Landing",
                table: "Cargo",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "LeftOutBy",
                table: "Cargo",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "ParcelKey",
                table: "Cargo",
                type: "TEXT",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "Catalogue",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Key = table.Column<string>(type: "TEXT", nullable: false),
                    Program = table.Column<string>(type: "TEXT", nullable: false),
                    Offer = table.Column<string>(type: "TEXT", nullable: false),
                    Where = table.Column<string>(type: "TEXT", nullable: true),
                    IsLicenceBound = table.Column<bool>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Catalogue", x => new { x.Refresh, x.Key });
                });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "Catalogue");

            migrationBuilder.DropColumn(
                name: "PurgedAt",
                table: "Swaps");

            migrationBuilder.DropColumn(
                name: "Landing",
                table: "Orders");

            migrationBuilder.DropColumn(
                name: "EndsOn",
                table: "Depots");

            migrationBuilder.DropColumn(
                name: "SealTo",
                table: "Depots");

            migrationBuilder.DropColumn(
                name: "Landing",
                table: "Cargo");

            migrationBuilder.DropColumn(
                name: "LeftOutBy",
                table: "Cargo");

            migrationBuilder.DropColumn(
                name: "ParcelKey",
                table: "Cargo");
        }
    }
}
