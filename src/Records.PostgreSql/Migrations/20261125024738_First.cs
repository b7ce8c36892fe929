using System;
using System.Collections.Generic;
using Microsoft.EntityFrameworkCore.Migrations;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace YardRelay.Records.PostgreSql.Migrations
{
    /// <inheritdoc />
    public partial class First : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "Accounts",
                columns: table => new
                {
                    Name = table.Column<string>(type: "text", nullable: false),
                    Shown = table.Column<string>(type: "text", nullable: false),
                    Role = table.Column<string>(type: "text", nullable: false),
                    Password = table.Column<string>(type: "text", nullable: false),
                    Sites = table.Column<List<string>>(type: "text[]", nullable: false),
                    Person = table.Column<string>(type: "text", nullable: true),
                    Failures = table.Column<int>(type: "integer", nullable: false),
                    LockedUntil = table.Column<long>(type: "bigint", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Accounts", x => x.Name);
                });

            migrationBuilder.CreateTable(
                name: "Answers",
                columns: table => new
                {
                    Account = table.Column<string>(type: "text", nullable: false),
                    Key = table.Column<string>(type: "text", nullable: false),
                    Request = table.Column<string>(type: "text", nullable: false),
                    Status = table.Column<int>(type: "integer", nullable: false),
                    Body = table.Column<string>(type: "text", nullable: false),
                    At = table.Column<long>(type: "bigint", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Answers", x => new { x.Account, x.Key });
                });

            migrationBuilder.CreateTable(
                name: "Codes",
                columns: table => new
                {
                    Sha256 = table.Column<string>(type: "text", nullable: false),
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Tag = table.Column<string>(type: "text", nullable: false),
                    Expires = table.Column<long>(type: "bigint", nullable: false),
                    UsedAt = table.Column<long>(type: "bigint", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Codes", x => x.Sha256);
                });

            migrationBuilder.CreateTable(
                name: "DataProtectionKeys",
                columns: table => new
                {
                    Id = table.Column<int>(type: "integer", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    FriendlyName = table.Column<string>(type: "text", nullable: true),
                    Xml = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_DataProtectionKeys", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Depots",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Key = table.Column<string>(type: "text", nullable: false),
                    Name = table.Column<string>(type: "text", nullable: false),
                    Address = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Depots", x => new { x.Refresh, x.Key });
                });

            migrationBuilder.CreateTable(
                name: "Folders",
                columns: table => new
                {
                    Swap = table.Column<string>(type: "text", nullable: false),
                    Folder = table.Column<string>(type: "text", nullable: false),
                    OldFiles = table.Column<long>(type: "bigint", nullable: false),
                    OldBytes = table.Column<long>(type: "bigint", nullable: false),
                    DepotFiles = table.Column<long>(type: "bigint", nullable: false),
                    DepotBytes = table.Column<long>(type: "bigint", nullable: false),
                    NewFiles = table.Column<long>(type: "bigint", nullable: true),
                    NewBytes = table.Column<long>(type: "bigint", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Folders", x => new { x.Swap, x.Folder });
                });

            migrationBuilder.CreateTable(
                name: "Hands",
                columns: table => new
                {
                    Id = table.Column<string>(type: "text", nullable: false),
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Tag = table.Column<string>(type: "text", nullable: false),
                    Host = table.Column<string>(type: "text", nullable: false),
                    EnrolledAt = table.Column<long>(type: "bigint", nullable: false),
                    SeenAt = table.Column<long>(type: "bigint", nullable: true),
                    ReplacedAt = table.Column<long>(type: "bigint", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Hands", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Ledger",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Number = table.Column<long>(type: "bigint", nullable: false),
                    Json = table.Column<string>(type: "text", nullable: false),
                    Sha256 = table.Column<string>(type: "text", nullable: false),
                    At = table.Column<long>(type: "bigint", nullable: false),
                    Swap = table.Column<string>(type: "text", nullable: true),
                    By = table.Column<string>(type: "text", nullable: false),
                    Kind = table.Column<string>(type: "text", nullable: false),
                    Words = table.Column<string>(type: "text", nullable: false),
                    Salt = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Ledger", x => new { x.Refresh, x.Number });
                });

            migrationBuilder.CreateTable(
                name: "Orders",
                columns: table => new
                {
                    Id = table.Column<string>(type: "text", nullable: false),
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Swap = table.Column<string>(type: "text", nullable: false),
                    Kind = table.Column<string>(type: "text", nullable: false),
                    Tag = table.Column<string>(type: "text", nullable: false),
                    State = table.Column<string>(type: "text", nullable: false),
                    MadeBy = table.Column<string>(type: "text", nullable: false),
                    MadeAt = table.Column<long>(type: "bigint", nullable: false),
                    Hand = table.Column<string>(type: "text", nullable: true),
                    Attempt = table.Column<int>(type: "integer", nullable: false),
                    NextBatch = table.Column<int>(type: "integer", nullable: false),
                    LeaseUntil = table.Column<long>(type: "bigint", nullable: true),
                    TakenAt = table.Column<long>(type: "bigint", nullable: true),
                    HeardAt = table.Column<long>(type: "bigint", nullable: true),
                    EndedAt = table.Column<long>(type: "bigint", nullable: true),
                    Files = table.Column<long>(type: "bigint", nullable: false),
                    TotalFiles = table.Column<long>(type: "bigint", nullable: false),
                    Bytes = table.Column<long>(type: "bigint", nullable: false),
                    TotalBytes = table.Column<long>(type: "bigint", nullable: false),
                    BytesPerSecond = table.Column<long>(type: "bigint", nullable: false),
                    Words = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Orders", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "People",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Key = table.Column<string>(type: "text", nullable: false),
                    Name = table.Column<string>(type: "text", nullable: false),
                    Mail = table.Column<string>(type: "text", nullable: true),
                    Department = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_People", x => new { x.Refresh, x.Key });
                });

            migrationBuilder.CreateTable(
                name: "Refreshes",
                columns: table => new
                {
                    Key = table.Column<string>(type: "text", nullable: false),
                    Name = table.Column<string>(type: "text", nullable: false),
                    Zone = table.Column<string>(type: "text", nullable: false),
                    Starts = table.Column<DateOnly>(type: "date", nullable: false),
                    Days = table.Column<int>(type: "integer", nullable: false),
                    LedgerNumber = table.Column<long>(type: "bigint", nullable: false),
                    LedgerSha256 = table.Column<string>(type: "text", nullable: false),
                    LastSwap = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Refreshes", x => x.Key);
                });

            migrationBuilder.CreateTable(
                name: "SignOffs",
                columns: table => new
                {
                    Swap = table.Column<string>(type: "text", nullable: false),
                    Part = table.Column<string>(type: "text", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false),
                    At = table.Column<long>(type: "bigint", nullable: false),
                    Saw = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_SignOffs", x => new { x.Swap, x.Part });
                });

            migrationBuilder.CreateTable(
                name: "Sites",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Key = table.Column<string>(type: "text", nullable: false),
                    Name = table.Column<string>(type: "text", nullable: false),
                    Benches = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Sites", x => new { x.Refresh, x.Key });
                });

            migrationBuilder.CreateTable(
                name: "Snags",
                columns: table => new
                {
                    Id = table.Column<string>(type: "text", nullable: false),
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Swap = table.Column<string>(type: "text", nullable: false),
                    Path = table.Column<string>(type: "text", nullable: false),
                    Kind = table.Column<string>(type: "text", nullable: false),
                    Side = table.Column<string>(type: "text", nullable: false),
                    Bytes = table.Column<long>(type: "bigint", nullable: false),
                    Reason = table.Column<string>(type: "text", nullable: false),
                    CountsAsFile = table.Column<bool>(type: "boolean", nullable: false),
                    End = table.Column<string>(type: "text", nullable: false),
                    EndedBy = table.Column<string>(type: "text", nullable: true),
                    EndReason = table.Column<string>(type: "text", nullable: true),
                    At = table.Column<long>(type: "bigint", nullable: false),
                    EndedAt = table.Column<long>(type: "bigint", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Snags", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Steps",
                columns: table => new
                {
                    Swap = table.Column<string>(type: "text", nullable: false),
                    Key = table.Column<string>(type: "text", nullable: false),
                    State = table.Column<string>(type: "text", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false),
                    At = table.Column<long>(type: "bigint", nullable: false),
                    Reason = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Steps", x => new { x.Swap, x.Key });
                });

            migrationBuilder.CreateTable(
                name: "Swaps",
                columns: table => new
                {
                    Id = table.Column<string>(type: "text", nullable: false),
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    RosterKey = table.Column<string>(type: "text", nullable: false),
                    Person = table.Column<string>(type: "text", nullable: false),
                    Name = table.Column<string>(type: "text", nullable: false),
                    Site = table.Column<string>(type: "text", nullable: false),
                    Room = table.Column<string>(type: "text", nullable: true),
                    Kind = table.Column<string>(type: "text", nullable: false),
                    OldTag = table.Column<string>(type: "text", nullable: true),
                    OldModel = table.Column<string>(type: "text", nullable: true),
                    NewTag = table.Column<string>(type: "text", nullable: true),
                    NewModel = table.Column<string>(type: "text", nullable: true),
                    Receiver = table.Column<string>(type: "text", nullable: true),
                    Free = table.Column<List<string>>(type: "text[]", nullable: false),
                    Technician = table.Column<string>(type: "text", nullable: true),
                    Start = table.Column<long>(type: "bigint", nullable: true),
                    HandsOnUntil = table.Column<long>(type: "bigint", nullable: true),
                    Finish = table.Column<long>(type: "bigint", nullable: true),
                    End = table.Column<long>(type: "bigint", nullable: true),
                    LeftOutBecause = table.Column<string>(type: "text", nullable: true),
                    ToldAt = table.Column<long>(type: "bigint", nullable: true),
                    SurveyedAt = table.Column<long>(type: "bigint", nullable: true),
                    BookedAt = table.Column<long>(type: "bigint", nullable: true),
                    StagedAt = table.Column<long>(type: "bigint", nullable: true),
                    SwappedAt = table.Column<long>(type: "bigint", nullable: true),
                    RestoredAt = table.Column<long>(type: "bigint", nullable: true),
                    AcceptedAt = table.Column<long>(type: "bigint", nullable: true),
                    HandedInAt = table.Column<long>(type: "bigint", nullable: true),
                    Next = table.Column<int>(type: "integer", nullable: false),
                    Depot = table.Column<string>(type: "text", nullable: true),
                    Parcel = table.Column<string>(type: "text", nullable: true),
                    Trips = table.Column<int>(type: "integer", nullable: false),
                    TripAt = table.Column<long>(type: "bigint", nullable: true),
                    VerifiedAt = table.Column<long>(type: "bigint", nullable: true),
                    VerifiedWhole = table.Column<bool>(type: "boolean", nullable: false),
                    RestoreAt = table.Column<long>(type: "bigint", nullable: true),
                    RestoreWhole = table.Column<bool>(type: "boolean", nullable: false),
                    Template = table.Column<string>(type: "text", nullable: false),
                    TemplateVersion = table.Column<int>(type: "integer", nullable: false),
                    ChecklistVersion = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Swaps", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Technicians",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Key = table.Column<string>(type: "text", nullable: false),
                    Name = table.Column<string>(type: "text", nullable: false),
                    Sites = table.Column<List<string>>(type: "text[]", nullable: false),
                    Shifts = table.Column<List<string>>(type: "text[]", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Technicians", x => new { x.Refresh, x.Key });
                });

            migrationBuilder.CreateTable(
                name: "Templates",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Name = table.Column<string>(type: "text", nullable: false),
                    Version = table.Column<int>(type: "integer", nullable: false),
                    Yaml = table.Column<string>(type: "text", nullable: false),
                    Steps = table.Column<int>(type: "integer", nullable: false),
                    At = table.Column<long>(type: "bigint", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Templates", x => new { x.Refresh, x.Name, x.Version });
                });

            migrationBuilder.CreateTable(
                name: "Tokens",
                columns: table => new
                {
                    Sha256 = table.Column<string>(type: "text", nullable: false),
                    Account = table.Column<string>(type: "text", nullable: true),
                    Hand = table.Column<string>(type: "text", nullable: true),
                    Label = table.Column<string>(type: "text", nullable: false),
                    Expires = table.Column<long>(type: "bigint", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Tokens", x => x.Sha256);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Answers_At",
                table: "Answers",
                column: "At");

            migrationBuilder.CreateIndex(
                name: "IX_Hands_Refresh_Tag",
                table: "Hands",
                columns: new[] { "Refresh", "Tag" });

            migrationBuilder.CreateIndex(
                name: "IX_Ledger_Swap_Number",
                table: "Ledger",
                columns: new[] { "Swap", "Number" });

            migrationBuilder.CreateIndex(
                name: "IX_Orders_Refresh_Tag_State",
                table: "Orders",
                columns: new[] { "Refresh", "Tag", "State" });

            migrationBuilder.CreateIndex(
                name: "IX_Orders_Swap_MadeAt",
                table: "Orders",
                columns: new[] { "Swap", "MadeAt" });

            migrationBuilder.CreateIndex(
                name: "IX_Snags_Refresh_End",
                table: "Snags",
                columns: new[] { "Refresh", "End" });

            migrationBuilder.CreateIndex(
                name: "IX_Snags_Swap_End",
                table: "Snags",
                columns: new[] { "Swap", "End" });

            migrationBuilder.CreateIndex(
                name: "IX_Swaps_Refresh_Name_Id",
                table: "Swaps",
                columns: new[] { "Refresh", "Name", "Id" });

            migrationBuilder.CreateIndex(
                name: "IX_Swaps_Refresh_RosterKey",
                table: "Swaps",
                columns: new[] { "Refresh", "RosterKey" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Swaps_Refresh_Start",
                table: "Swaps",
                columns: new[] { "Refresh", "Start" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "Accounts");

            migrationBuilder.DropTable(
                name: "Answers");

            migrationBuilder.DropTable(
                name: "Codes");

            migrationBuilder.DropTable(
                name: "DataProtectionKeys");

            migrationBuilder.DropTable(
                name: "Depots");

            migrationBuilder.DropTable(
                name: "Folders");

            migrationBuilder.DropTable(
                name: "Hands");

            migrationBuilder.DropTable(
                name: "Ledger");

            migrationBuilder.DropTable(
                name: "Orders");

            migrationBuilder.DropTable(
                name: "People");

            migrationBuilder.DropTable(
                name: "Refreshes");

            migrationBuilder.DropTable(
                name: "SignOffs");

            migrationBuilder.DropTable(
                name: "Sites");

            migrationBuilder.DropTable(
                name: "Snags");

            migrationBuilder.DropTable(
                name: "Steps");

            migrationBuilder.DropTable(
                name: "Swaps");

            migrationBuilder.DropTable(
                name: "Technicians");

            migrationBuilder.DropTable(
                name: "Templates");

            migrationBuilder.DropTable(
                name: "Tokens");
        }
    }
}
