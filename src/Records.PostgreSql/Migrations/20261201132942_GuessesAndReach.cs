using System.Collections.Generic;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace YardRelay.Records.PostgreSql.Migrations
{
    /// <inheritdoc />
    public partial class GuessesAndReach : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "Failures",
                table: "Accounts");

            migrationBuilder.DropColumn(
                name: "LockedUntil",
                table: "Accounts");

            migrationBuilder.AddColumn<List<string>>(
                name: "Refreshes",
                table: "Accounts",
                type: "text[]",
                nullable: false,
                defaultValue: new List<string>());

            migrationBuilder.CreateTable(
                name: "Guesses",
                columns: table => new
                {
                    Of = table.Column<string>(type: "text", nullable: false),
                    Count = table.Column<int>(type: "integer", nullable: false),
                    Since = table.Column<long>(type: "bigint", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Guesses", x => x.Of);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Guesses_Since",
                table: "Guesses",
                column: "Since");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "Guesses");

            migrationBuilder.DropColumn(
                name: "Refreshes",
                table: "Accounts");

            migrationBuilder.AddColumn<int>(
                name: "Failures",
                table: "Accounts",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<long>(
                name: "LockedUntil",
                table: "Accounts",
                type: "bigint",
                nullable: true);
        }
    }
}
