using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace YardRelay.Records.Sqlite.Migrations
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
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Shown = table.Column<string>(type: "TEXT", nullable: false),
                    Role = table.Column<string>(type: "TEXT", nullable: false),
                    Password = table.Column<string>(type: "TEXT", nullable: false),
                    Sites = table.Column<string>(type: "TEXT", nullable: false),
                    Person = table.Column<string>(type: "TEXT", nullable: true),
                    Failures = table.Column<int>(type: "INTEGER", nullable: false),
                    LockedUntil = table.Column<long>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Accounts", x => x.Name);
                });

            migrationBuilder.CreateTable(
                name: "Answers",
                columns: table => new
                {
                    Account = table.Column<string>(type: "TEXT", nullable: false),
                    Key = table.Column<string>(type: "TEXT", nullable: false),
                    Request = table.Column<string>(type: "TEXT", nullable: false),
                    Status = table.Column<int>(type: "INTEGER", nullable: false),
                    Body = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Answers", x => new { x.Account, x.Key });
                });

            migrationBuilder.CreateTable(
                name: "Codes",
                columns: table => new
                {
                    Sha256 = table.Column<string>(type: "TEXT", nullable: false),
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Tag = table.Column<string>(type: "TEXT", nullable: false),
                    Expires = table.Column<long>(type: "INTEGER", nullable: false),
                    UsedAt = table.Column<long>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Codes", x => x.Sha256);
                });

            migrationBuilder.CreateTable(
                name: "DataProtectionKeys",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    FriendlyName = table.Column<string>(type: "TEXT", nullable: true),
                    Xml = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_DataProtectionKeys", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Depots",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Key = table.Column<string>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Address = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Depots", x => new { x.Refresh, x.Key });
                });

            migrationBuilder.CreateTable(
                name: "Folders",
                columns: table => new
                {
                    Swap = table.Column<string>(type: "TEXT", nullable: false),
                    Folder = table.Column<string>(type: "TEXT", nullable: false),
                    OldFiles = table.Column<long>(type: "INTEGER", nullable: false),
                    OldBytes = table.Column<long>(type: "INTEGER", nullable: false),
                    DepotFiles = table.Column<long>(type: "INTEGER", nullable: false),
                    DepotBytes = table.Column<long>(type: "INTEGER", nullable: false),
                    NewFiles = table.Column<long>(type: "INTEGER", nullable: true),
                    NewBytes = table.Column<long>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Folders", x => new { x.Swap, x.Folder });
                });

            migrationBuilder.CreateTable(
                name: "Hands",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Tag = table.Column<string>(type: "TEXT", nullable: false),
                    Host = table.Column<string>(type: "TEXT", nullable: false),
                    EnrolledAt = table.Column<long>(type: "INTEGER", nullable: false),
                    SeenAt = table.Column<long>(type: "INTEGER", nullable: true),
                    ReplacedAt = table.Column<long>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Hands", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Ledger",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Number = table.Column<long>(type: "INTEGER", nullable: false),
                    Json = table.Column<string>(type: "TEXT", nullable: false),
                    Sha256 = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false),
                    Swap = table.Column<string>(type: "TEXT", nullable: true),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    Kind = table.Column<string>(type: "TEXT", nullable: false),
                    Words = table.Column<string>(type: "TEXT", nullable: false),
                    Salt = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Ledger", x => new { x.Refresh, x.Number });
                });

            migrationBuilder.CreateTable(
                name: "Orders",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Swap = table.Column<string>(type: "TEXT", nullable: false),
                    Kind = table.Column<string>(type: "TEXT", nullable: false),
                    Tag = table.Column<string>(type: "TEXT", nullable: false),
                    State = table.Column<string>(type: "TEXT", nullable: false),
                    MadeBy = table.Column<string>(type: "TEXT", nullable: false),
                    MadeAt = table.Column<long>(type: "INTEGER", nullable: false),
                    Hand = table.Column<string>(type: "TEXT", nullable: true),
                    Attempt = table.Column<int>(type: "INTEGER", nullable: false),
                    NextBatch = table.Column<int>(type: "INTEGER", nullable: false),
                    LeaseUntil = table.Column<long>(type: "INTEGER", nullable: true),
                    TakenAt = table.Column<long>(type: "INTEGER", nullable: true),
                    HeardAt = table.Column<long>(type: "INTEGER", nullable: true),
                    EndedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    Files = table.Column<long>(type: "INTEGER", nullable: false),
                    TotalFiles = table.Column<long>(type: "INTEGER", nullable: false),
                    Bytes = table.Column<long>(type: "INTEGER", nullable: false),
                    TotalBytes = table.Column<long>(type: "INTEGER", nullable: false),
                    BytesPerSecond = table.Column<long>(type: "INTEGER", nullable: false),
                    Words = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Orders", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "People",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Key = table.Column<string>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Mail = table.Column<string>(type: "TEXT", nullable: true),
                    Department = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_People", x => new { x.Refresh, x.Key });
                });

            migrationBuilder.CreateTable(
                name: "Refreshes",
                columns: table => new
                {
                    Key = table.Column<string>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Zone = table.Column<string>(type: "TEXT", nullable: false),
                    Starts = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Days = table.Column<int>(type: "INTEGER", nullable: false),
                    LedgerNumber = table.Column<long>(type: "INTEGER", nullable: false),
                    LedgerSha256 = table.Column<string>(type: "TEXT", nullable: false),
                    LastSwap = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Refreshes", x => x.Key);
                });

            migrationBuilder.CreateTable(
                name: "SignOffs",
                columns: table => new
                {
                    Swap = table.Column<string>(type: "TEXT", nullable: false),
                    Part = table.Column<string>(type: "TEXT", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false),
                    Saw = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_SignOffs", x => new { x.Swap, x.Part });
                });

            migrationBuilder.CreateTable(
                name: "Sites",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Key = table.Column<string>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Benches = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Sites", x => new { x.Refresh, x.Key });
                });

            migrationBuilder.CreateTable(
                name: "Snags",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Swap = table.Column<string>(type: "TEXT", nullable: false),
                    Path = table.Column<string>(type: "TEXT", nullable: false),
                    Kind = table.Column<string>(type: "TEXT", nullable: false),
                    Side = table.Column<string>(type: "TEXT", nullable: false),
                    Bytes = table.Column<long>(type: "INTEGER", nullable: false),
                    Reason = table.Column<string>(type: "TEXT", nullable: false),
                    CountsAsFile = table.Column<bool>(type: "INTEGER", nullable: false),
                    End = table.Column<string>(type: "TEXT", nullable: false),
                    EndedBy = table.Column<string>(type: "TEXT", nullable: true),
                    EndReason = table.Column<string>(type: "TEXT", nullable: true),
                    At = table.Column<long>(type: "INTEGER", nullable: false),
                    EndedAt = table.Column<long>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Snags", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Steps",
                columns: table => new
                {
                    Swap = table.Column<string>(type: "TEXT", nullable: false),
                    Key = table.Column<string>(type: "TEXT", nullable: false),
                    State = table.Column<string>(type: "TEXT", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false),
                    Reason = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Steps", x => new { x.Swap, x.Key });
                });

            migrationBuilder.CreateTable(
                name: "Swaps",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    RosterKey = table.Column<string>(type: "TEXT", nullable: false),
                    Person = table.Column<string>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Site = table.Column<string>(type: "TEXT", nullable: false),
                    Room = table.Column<string>(type: "TEXT", nullable: true),
                    Kind = table.Column<string>(type: "TEXT", nullable: false),
                    OldTag = table.Column<string>(type: "TEXT", nullable: true),
                    OldModel = table.Column<string>(type: "TEXT", nullable: true),
                    NewTag = table.Column<string>(type: "TEXT", nullable: true),
                    NewModel = table.Column<string>(type: "TEXT", nullable: true),
                    Receiver = table.Column<string>(type: "TEXT", nullable: true),
                    Free = table.Column<string>(type: "TEXT", nullable: false),
                    Technician = table.Column<string>(type: "TEXT", nullable: true),
                    Start = table.Column<long>(type: "INTEGER", nullable: true),
                    HandsOnUntil = table.Column<long>(type: "INTEGER", nullable: true),
                    Finish = table.Column<long>(type: "INTEGER", nullable: true),
                    End = table.Column<long>(type: "INTEGER", nullable: true),
                    LeftOutBecause = table.Column<string>(type: "TEXT", nullable: true),
                    ToldAt = table.Column<long>(type: "INTEGER", nullable: true),
                    SurveyedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    BookedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    StagedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    SwappedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    RestoredAt = table.Column<long>(type: "INTEGER", nullable: true),
                    AcceptedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    HandedInAt = table.Column<long>(type: "INTEGER", nullable: true),
                    Next = table.Column<int>(type: "INTEGER", nullable: false),
                    Depot = table.Column<string>(type: "TEXT", nullable: true),
                    Parcel = table.Column<string>(type: "TEXT", nullable: true),
                    Trips = table.Column<int>(type: "INTEGER", nullable: false),
                    TripAt = table.Column<long>(type: "INTEGER", nullable: true),
                    VerifiedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    VerifiedWhole = table.Column<bool>(type: "INTEGER", nullable: false),
                    RestoreAt = table.Column<long>(type: "INTEGER", nullable: true),
                    RestoreWhole = table.Column<bool>(type: "INTEGER", nullable: false),
                    Template = table.Column<string>(type: "TEXT", nullable: false),
                    TemplateVersion = table.Column<int>(type: "INTEGER", nullable: false),
                    ChecklistVersion = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Swaps", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Technicians",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Key = table.Column<string>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Sites = table.Column<string>(type: "TEXT", nullable: false),
                    Shifts = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Technicians", x => new { x.Refresh, x.Key });
                });

            migrationBuilder.CreateTable(
                name: "Templates",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Version = table.Column<int>(type: "INTEGER", nullable: false),
                    Yaml = table.Column<string>(type: "TEXT", nullable: false),
                    Steps = table.Column<int>(type: "INTEGER", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Templates", x => new { x.Refresh, x.Name, x.Version });
                });

            migrationBuilder.CreateTable(
                name: "Tokens",
                columns: table => new
                {
                    Sha256 = table.Column<string>(type: "TEXT", nullable: false),
                    Account = table.Column<string>(type: "TEXT", nullable: true),
                    Hand = table.Column<string>(type: "TEXT", nullable: true),
                    Label = table.Column<string>(type: "TEXT", nullable: false),
                    Expires = table.Column<long>(type: "INTEGER", nullable: false)
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
