using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace YardRelay.Records.Sqlite.Migrations
{
    /// <inheritdoc />
    public partial class MorningMail : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "MorningMails",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    To = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<TimeOnly>(type: "TEXT", nullable: false),
                    Mailed = table.Column<DateOnly>(type: "TEXT", nullable: true),
                    Trouble = table.Column<string>(type: "TEXT", nullable: true),
                    TryAt = table.Column<long>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_MorningMails", x => x.Refresh);
                });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "MorningMails");
        }
    }
}
