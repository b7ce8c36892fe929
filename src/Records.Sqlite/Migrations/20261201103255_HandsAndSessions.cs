using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace YardRelay.Records.Sqlite.Migrations
{
    /// <inheritdoc />
    public partial class HandsAndSessions : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "Version",
                table: "Hands",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "WithdrawnBy",
                table: "Hands",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "IsBrowser",
                table: "Tokens",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<long>(
                name: "MadeAt",
                table: "Tokens",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "SeenAt",
                table: "Tokens",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "DisabledAt",
                table: "Accounts",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.CreateIndex(
                name: "IX_Tokens_Account",
                table: "Tokens",
                column: "Account");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "Version",
                table: "Hands");

            migrationBuilder.DropColumn(
                name: "WithdrawnBy",
                table: "Hands");

            migrationBuilder.DropIndex(
                name: "IX_Tokens_Account",
                table: "Tokens");

            migrationBuilder.DropColumn(
                name: "IsBrowser",
                table: "Tokens");

            migrationBuilder.DropColumn(
                name: "MadeAt",
                table: "Tokens");

            migrationBuilder.DropColumn(
                name: "SeenAt",
                table: "Tokens");

            migrationBuilder.DropColumn(
                name: "DisabledAt",
                table: "Accounts");
        }
    }
}
