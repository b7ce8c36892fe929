using System.Collections.Generic;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace YardRelay.Records.PostgreSql.Migrations
{
    /// <inheritdoc />
    public partial class Passkeys : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<bool>(
                name: "IsSecond",
                table: "Tokens",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<bool>(
                name: "AsksSecond",
                table: "Refreshes",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<List<string>>(
                name: "Groups",
                table: "Accounts",
                type: "text[]",
                nullable: false,
                defaultValue: new List<string>());

            migrationBuilder.AddColumn<string>(
                name: "Issuer",
                table: "Accounts",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Subject",
                table: "Accounts",
                type: "text",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "Askings",
                columns: table => new
                {
                    Sha256 = table.Column<string>(type: "text", nullable: false),
                    Code = table.Column<string>(type: "text", nullable: false),
                    Label = table.Column<string>(type: "text", nullable: false),
                    From = table.Column<string>(type: "text", nullable: true),
                    MadeAt = table.Column<long>(type: "bigint", nullable: false),
                    Expires = table.Column<long>(type: "bigint", nullable: false),
                    LetInBy = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Askings", x => x.Sha256);
                });

            migrationBuilder.CreateTable(
                name: "Passkeys",
                columns: table => new
                {
                    Id = table.Column<string>(type: "text", nullable: false),
                    Account = table.Column<string>(type: "text", nullable: false),
                    Name = table.Column<string>(type: "text", nullable: false),
                    PublicKey = table.Column<byte[]>(type: "bytea", nullable: false),
                    SignCount = table.Column<long>(type: "bigint", nullable: false),
                    Transports = table.Column<List<string>>(type: "text[]", nullable: false),
                    IsUserVerified = table.Column<bool>(type: "boolean", nullable: false),
                    IsBackupEligible = table.Column<bool>(type: "boolean", nullable: false),
                    IsBackedUp = table.Column<bool>(type: "boolean", nullable: false),
                    MadeAt = table.Column<long>(type: "bigint", nullable: false),
                    UsedAt = table.Column<long>(type: "bigint", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Passkeys", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Recoveries",
                columns: table => new
                {
                    Sha256 = table.Column<string>(type: "text", nullable: false),
                    Account = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Recoveries", x => x.Sha256);
                });

            migrationBuilder.CreateTable(
                name: "StaffGroups",
                columns: table => new
                {
                    Name = table.Column<string>(type: "text", nullable: false),
                    Role = table.Column<string>(type: "text", nullable: false),
                    Sites = table.Column<List<string>>(type: "text[]", nullable: false),
                    Refreshes = table.Column<List<string>>(type: "text[]", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_StaffGroups", x => x.Name);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Accounts_Issuer_Subject",
                table: "Accounts",
                columns: new[] { "Issuer", "Subject" },
                unique: true,
                filter: "\"Subject\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Askings_Code",
                table: "Askings",
                column: "Code",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Passkeys_Account",
                table: "Passkeys",
                column: "Account");

            migrationBuilder.CreateIndex(
                name: "IX_Recoveries_Account",
                table: "Recoveries",
                column: "Account");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "Askings");

            migrationBuilder.DropTable(
                name: "Passkeys");

            migrationBuilder.DropTable(
                name: "Recoveries");

            migrationBuilder.DropTable(
                name: "StaffGroups");

            migrationBuilder.DropIndex(
                name: "IX_Accounts_Issuer_Subject",
                table: "Accounts");

            migrationBuilder.DropColumn(
                name: "IsSecond",
                table: "Tokens");

            migrationBuilder.DropColumn(
                name: "AsksSecond",
                table: "Refreshes");

            migrationBuilder.DropColumn(
                name: "Groups",
                table: "Accounts");

            migrationBuilder.DropColumn(
                name: "Issuer",
                table: "Accounts");

            migrationBuilder.DropColumn(
                name: "Subject",
                table: "Accounts");
        }
    }
}
