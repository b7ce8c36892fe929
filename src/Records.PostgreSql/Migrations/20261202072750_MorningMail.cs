using System;
using System.Collections.Generic;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace YardRelay.Records.PostgreSql.Migrations
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
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    To = table.Column<List<string>>(type: "text[]", nullable: false),
                    At = table.Column<TimeOnly>(type: "time without time zone", nullable: false),
                    Mailed = table.Column<DateOnly>(type: "date", nullable: true),
                    Trouble = table.Column<string>(type: "text", nullable: true),
                    TryAt = table.Column<long>(type: "bigint", nullable: true)
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
