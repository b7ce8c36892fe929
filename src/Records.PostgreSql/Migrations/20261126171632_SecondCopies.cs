using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace YardRelay.Records.PostgreSql.Migrations
{
    /// <inheritdoc />
    public partial class SecondCopies : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<long>(
                name: "CopiedAt",
                table: "Swaps",
                type: "bigint",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "CopyTo",
                table: "Depots",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Passphrase",
                table: "Cargo",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "PassphraseAt",
                table: "Cargo",
                type: "bigint",
                nullable: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "CopiedAt",
                table: "Swaps");

            migrationBuilder.DropColumn(
                name: "CopyTo",
                table: "Depots");

            migrationBuilder.DropColumn(
                name: "Passphrase",
                table: "Cargo");

            migrationBuilder.DropColumn(
                name: "PassphraseAt",
                table: "Cargo");
        }
    }
}
