using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace YardRelay.Records.PostgreSql.Migrations
{
    /// <inheritdoc />
    public partial class CarryLists : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<long>(
                name: "LeftOutBytes",
                table: "Folders",
                type: "bigint",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<long>(
                name: "LeftOutFiles",
                table: "Folders",
                type: "bigint",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.CreateTable(
                name: "Cargo",
                columns: table => new
                {
                    Swap = table.Column<string>(type: "text", nullable: false),
                    Inventory = table.Column<string>(type: "text", nullable: true),
                    CarryList = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Cargo", x => x.Swap);
                });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "Cargo");

            migrationBuilder.DropColumn(
                name: "LeftOutBytes",
                table: "Folders");

            migrationBuilder.DropColumn(
                name: "LeftOutFiles",
                table: "Folders");
        }
    }
}
