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
                name: "Cargo",
                columns: table => new
                {
                    Swap = table.Column<string>(type: "text", nullable: false),
                    Inventory = table.Column<string>(type: "text", nullable: true),
                    NewComputer = table.Column<string>(type: "text", nullable: true),
                    CarryList = table.Column<string>(type: "text", nullable: true),
                    Landing = table.Column<string>(type: "text", nullable: true),
                    LeftOutBy = table.Column<string>(type: "text", nullable: true),
                    ParcelKey = table.Column<string>(type: "text", nullable: true),
                    Passphrase = table.Column<string>(type: "text", nullable: true),
                    PassphraseAt = table.Column<long>(type: "bigint", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Cargo", x => x.Swap);
                });

            migrationBuilder.CreateTable(
                name: "Catalogue",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Key = table.Column<string>(type: "text", nullable: false),
                    Program = table.Column<string>(type: "text", nullable: false),
                    Offer = table.Column<string>(type: "text", nullable: false),
                    Where = table.Column<string>(type: "text", nullable: true),
                    IsLicenceBound = table.Column<bool>(type: "boolean", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Catalogue", x => new { x.Refresh, x.Key });
                });

            migrationBuilder.CreateTable(
                name: "Closures",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Key = table.Column<string>(type: "text", nullable: false),
                    Name = table.Column<string>(type: "text", nullable: false),
                    Site = table.Column<string>(type: "text", nullable: true),
                    At = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Closures", x => new { x.Refresh, x.Key });
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
                name: "Columns",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Head = table.Column<string>(type: "text", nullable: false),
                    Column = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Columns", x => new { x.Refresh, x.Head });
                });

            migrationBuilder.CreateTable(
                name: "Custody",
                columns: table => new
                {
                    Id = table.Column<string>(type: "text", nullable: false),
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Tag = table.Column<string>(type: "text", nullable: false),
                    Act = table.Column<string>(type: "text", nullable: false),
                    Where = table.Column<string>(type: "text", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false),
                    At = table.Column<long>(type: "bigint", nullable: false),
                    Recorded = table.Column<long>(type: "bigint", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Custody", x => x.Id);
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
                name: "Deliveries",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Key = table.Column<string>(type: "text", nullable: false),
                    Name = table.Column<string>(type: "text", nullable: false),
                    Arrives = table.Column<string>(type: "text", nullable: false),
                    Tags = table.Column<List<string>>(type: "text[]", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Deliveries", x => new { x.Refresh, x.Key });
                });

            migrationBuilder.CreateTable(
                name: "Depots",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Key = table.Column<string>(type: "text", nullable: false),
                    Name = table.Column<string>(type: "text", nullable: false),
                    Address = table.Column<string>(type: "text", nullable: false),
                    CapacityBytes = table.Column<long>(type: "bigint", nullable: true),
                    DailyBytes = table.Column<long>(type: "bigint", nullable: true),
                    HoldDays = table.Column<int>(type: "integer", nullable: false),
                    EndsOn = table.Column<DateOnly>(type: "date", nullable: true),
                    SealTo = table.Column<List<string>>(type: "text[]", nullable: false),
                    Limits = table.Column<List<string>>(type: "text[]", nullable: false),
                    Access = table.Column<string>(type: "text", nullable: true),
                    CopyTo = table.Column<string>(type: "text", nullable: true),
                    FreeBytes = table.Column<long>(type: "bigint", nullable: true),
                    HeardAt = table.Column<long>(type: "bigint", nullable: true),
                    Trouble = table.Column<string>(type: "text", nullable: true),
                    BytesPerSecond = table.Column<double>(type: "double precision", nullable: false),
                    Observed = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Depots", x => new { x.Refresh, x.Key });
                });

            migrationBuilder.CreateTable(
                name: "Detours",
                columns: table => new
                {
                    Id = table.Column<string>(type: "text", nullable: false),
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Swap = table.Column<string>(type: "text", nullable: false),
                    Kind = table.Column<string>(type: "text", nullable: false),
                    Words = table.Column<string>(type: "text", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false),
                    At = table.Column<long>(type: "bigint", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Detours", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Estimates",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Scope = table.Column<string>(type: "text", nullable: false),
                    Of = table.Column<string>(type: "text", nullable: false),
                    BeforeMinutes = table.Column<int>(type: "integer", nullable: true),
                    UnattendedMinutes = table.Column<int>(type: "integer", nullable: true),
                    AfterMinutes = table.Column<int>(type: "integer", nullable: true),
                    HasBench = table.Column<bool>(type: "boolean", nullable: false),
                    BenchSite = table.Column<string>(type: "text", nullable: true),
                    BenchHandsOnMinutes = table.Column<int>(type: "integer", nullable: false),
                    BenchUnattendedMinutes = table.Column<int>(type: "integer", nullable: false),
                    BenchGapMinutes = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Estimates", x => new { x.Refresh, x.Scope, x.Of });
                });

            migrationBuilder.CreateTable(
                name: "Exchanges",
                columns: table => new
                {
                    Id = table.Column<string>(type: "text", nullable: false),
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Asks = table.Column<string>(type: "text", nullable: false),
                    AsksStart = table.Column<long>(type: "bigint", nullable: false),
                    Asked = table.Column<string>(type: "text", nullable: false),
                    AskedStart = table.Column<long>(type: "bigint", nullable: false),
                    At = table.Column<long>(type: "bigint", nullable: false),
                    End = table.Column<string>(type: "text", nullable: true),
                    EndedAt = table.Column<long>(type: "bigint", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Exchanges", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Folders",
                columns: table => new
                {
                    Swap = table.Column<string>(type: "text", nullable: false),
                    Folder = table.Column<string>(type: "text", nullable: false),
                    OldFiles = table.Column<long>(type: "bigint", nullable: false),
                    OldBytes = table.Column<long>(type: "bigint", nullable: false),
                    LeftOutFiles = table.Column<long>(type: "bigint", nullable: false),
                    LeftOutBytes = table.Column<long>(type: "bigint", nullable: false),
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
                name: "FollowUps",
                columns: table => new
                {
                    Id = table.Column<string>(type: "text", nullable: false),
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Swap = table.Column<string>(type: "text", nullable: false),
                    Words = table.Column<string>(type: "text", nullable: false),
                    Owner = table.Column<string>(type: "text", nullable: false),
                    Due = table.Column<long>(type: "bigint", nullable: false),
                    Holds = table.Column<string>(type: "text", nullable: false),
                    Cause = table.Column<string>(type: "text", nullable: false),
                    MadeBy = table.Column<string>(type: "text", nullable: false),
                    MadeAt = table.Column<long>(type: "bigint", nullable: false),
                    DoneBy = table.Column<string>(type: "text", nullable: true),
                    DoneAt = table.Column<long>(type: "bigint", nullable: true),
                    Outcome = table.Column<string>(type: "text", nullable: true),
                    VisitMinutes = table.Column<int>(type: "integer", nullable: true),
                    VisitTechnician = table.Column<string>(type: "text", nullable: true),
                    VisitStart = table.Column<long>(type: "bigint", nullable: true),
                    VisitEnd = table.Column<long>(type: "bigint", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_FollowUps", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Groups",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Key = table.Column<string>(type: "text", nullable: false),
                    Name = table.Column<string>(type: "text", nullable: false),
                    Swaps = table.Column<List<string>>(type: "text[]", nullable: false),
                    AtOnce = table.Column<int>(type: "integer", nullable: true),
                    OneDay = table.Column<bool>(type: "boolean", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Groups", x => new { x.Refresh, x.Key });
                });

            migrationBuilder.CreateTable(
                name: "Handovers",
                columns: table => new
                {
                    Id = table.Column<string>(type: "text", nullable: false),
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Swap = table.Column<string>(type: "text", nullable: false),
                    From = table.Column<string>(type: "text", nullable: false),
                    To = table.Column<string>(type: "text", nullable: false),
                    Note = table.Column<string>(type: "text", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false),
                    At = table.Column<long>(type: "bigint", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Handovers", x => x.Id);
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
                name: "LinkRefusals",
                columns: table => new
                {
                    Day = table.Column<DateOnly>(type: "date", nullable: false),
                    Cause = table.Column<string>(type: "text", nullable: false),
                    Count = table.Column<long>(type: "bigint", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_LinkRefusals", x => new { x.Day, x.Cause });
                });

            migrationBuilder.CreateTable(
                name: "Links",
                columns: table => new
                {
                    Sha256 = table.Column<string>(type: "text", nullable: false),
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Swap = table.Column<string>(type: "text", nullable: false),
                    MadeBy = table.Column<string>(type: "text", nullable: false),
                    MadeAt = table.Column<long>(type: "bigint", nullable: false),
                    Expires = table.Column<long>(type: "bigint", nullable: false),
                    WithdrawnAt = table.Column<long>(type: "bigint", nullable: true),
                    OpenedAt = table.Column<long>(type: "bigint", nullable: true),
                    SeenAt = table.Column<long>(type: "bigint", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Links", x => x.Sha256);
                });

            migrationBuilder.CreateTable(
                name: "NoticeTexts",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Moment = table.Column<string>(type: "text", nullable: false),
                    Language = table.Column<string>(type: "text", nullable: false),
                    Text = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_NoticeTexts", x => new { x.Refresh, x.Moment, x.Language });
                });

            migrationBuilder.CreateTable(
                name: "Notices",
                columns: table => new
                {
                    Id = table.Column<string>(type: "text", nullable: false),
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Swap = table.Column<string>(type: "text", nullable: false),
                    Key = table.Column<string>(type: "text", nullable: false),
                    Moment = table.Column<string>(type: "text", nullable: false),
                    Language = table.Column<string>(type: "text", nullable: false),
                    To = table.Column<string>(type: "text", nullable: false),
                    Subject = table.Column<string>(type: "text", nullable: false),
                    Start = table.Column<long>(type: "bigint", nullable: true),
                    MadeAt = table.Column<long>(type: "bigint", nullable: false),
                    LastUseful = table.Column<long>(type: "bigint", nullable: false),
                    TryAt = table.Column<long>(type: "bigint", nullable: true),
                    HandedAt = table.Column<long>(type: "bigint", nullable: true),
                    Tries = table.Column<int>(type: "integer", nullable: false),
                    SentAt = table.Column<long>(type: "bigint", nullable: true),
                    BouncedAt = table.Column<long>(type: "bigint", nullable: true),
                    Trouble = table.Column<string>(type: "text", nullable: true),
                    Link = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Notices", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "OldComputers",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Tag = table.Column<string>(type: "text", nullable: false),
                    Swap = table.Column<string>(type: "text", nullable: false),
                    Holder = table.Column<string>(type: "text", nullable: true),
                    Place = table.Column<string>(type: "text", nullable: true),
                    Pallet = table.Column<string>(type: "text", nullable: true),
                    MovedAt = table.Column<long>(type: "bigint", nullable: true),
                    End = table.Column<string>(type: "text", nullable: true),
                    EndedTo = table.Column<string>(type: "text", nullable: true),
                    WipeMethod = table.Column<string>(type: "text", nullable: true),
                    WipeResult = table.Column<string>(type: "text", nullable: true),
                    WipeEvidence = table.Column<string>(type: "text", nullable: true),
                    WipedBy = table.Column<string>(type: "text", nullable: true),
                    WipedAt = table.Column<long>(type: "bigint", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_OldComputers", x => new { x.Refresh, x.Tag });
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
                    Words = table.Column<string>(type: "text", nullable: true),
                    Folder = table.Column<string>(type: "text", nullable: true),
                    ByNeed = table.Column<bool>(type: "boolean", nullable: false),
                    Beside = table.Column<bool>(type: "boolean", nullable: false),
                    PausedAt = table.Column<long>(type: "bigint", nullable: true),
                    Waits = table.Column<string>(type: "text", nullable: true),
                    Landing = table.Column<string>(type: "text", nullable: true)
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
                    Department = table.Column<string>(type: "text", nullable: true),
                    Role = table.Column<string>(type: "text", nullable: true),
                    Language = table.Column<string>(type: "text", nullable: true),
                    MailOff = table.Column<bool>(type: "boolean", nullable: false),
                    NamesAllowedAt = table.Column<long>(type: "bigint", nullable: true),
                    ErasedAt = table.Column<long>(type: "bigint", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_People", x => new { x.Refresh, x.Key });
                });

            migrationBuilder.CreateTable(
                name: "Photos",
                columns: table => new
                {
                    Sha256 = table.Column<string>(type: "text", nullable: false),
                    Swap = table.Column<string>(type: "text", nullable: false),
                    Step = table.Column<string>(type: "text", nullable: false),
                    Kind = table.Column<string>(type: "text", nullable: false),
                    Width = table.Column<int>(type: "integer", nullable: false),
                    Height = table.Column<int>(type: "integer", nullable: false),
                    Content = table.Column<byte[]>(type: "bytea", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false),
                    At = table.Column<long>(type: "bigint", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Photos", x => new { x.Swap, x.Step, x.Sha256 });
                });

            migrationBuilder.CreateTable(
                name: "Plans",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Number = table.Column<int>(type: "integer", nullable: false),
                    State = table.Column<string>(type: "text", nullable: false),
                    Version = table.Column<int>(type: "integer", nullable: false),
                    BasedOn = table.Column<int>(type: "integer", nullable: false),
                    MadeBy = table.Column<string>(type: "text", nullable: false),
                    MadeAt = table.Column<long>(type: "bigint", nullable: false),
                    PublishedBy = table.Column<string>(type: "text", nullable: true),
                    PublishedAt = table.Column<long>(type: "bigint", nullable: true),
                    Placed = table.Column<int>(type: "integer", nullable: false),
                    LeftOut = table.Column<int>(type: "integer", nullable: false),
                    Cost = table.Column<int>(type: "integer", nullable: false),
                    Body = table.Column<string>(type: "text", nullable: false),
                    Moves = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Plans", x => new { x.Refresh, x.Number });
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
                    LastSwap = table.Column<int>(type: "integer", nullable: false),
                    PlaceRules = table.Column<string>(type: "text", nullable: true),
                    WorldVersion = table.Column<long>(type: "bigint", nullable: false),
                    OldHoldDays = table.Column<int>(type: "integer", nullable: false),
                    NoticesSince = table.Column<long>(type: "bigint", nullable: true),
                    ChooseHours = table.Column<int>(type: "integer", nullable: false),
                    MostPerSlot = table.Column<int>(type: "integer", nullable: true),
                    AsksForNames = table.Column<bool>(type: "boolean", nullable: false),
                    KeepDays = table.Column<int>(type: "integer", nullable: true),
                    LastPlan = table.Column<int>(type: "integer", nullable: false)
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
                    Saw = table.Column<string>(type: "text", nullable: false),
                    Witness = table.Column<string>(type: "text", nullable: true),
                    Drawn = table.Column<string>(type: "text", nullable: true)
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
                    Benches = table.Column<int>(type: "integer", nullable: false),
                    Rooms = table.Column<List<string>>(type: "text[]", nullable: false),
                    Opens = table.Column<string>(type: "text", nullable: false),
                    Limits = table.Column<List<string>>(type: "text[]", nullable: false)
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
                    Files = table.Column<long>(type: "bigint", nullable: false),
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
                name: "Spares",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Key = table.Column<string>(type: "text", nullable: false),
                    Model = table.Column<string>(type: "text", nullable: true),
                    Site = table.Column<string>(type: "text", nullable: false),
                    Trouble = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Spares", x => new { x.Refresh, x.Key });
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
                    Reason = table.Column<string>(type: "text", nullable: true),
                    Value = table.Column<string>(type: "text", nullable: true),
                    StartedAt = table.Column<long>(type: "bigint", nullable: true),
                    Runs = table.Column<int>(type: "integer", nullable: false)
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
                    OldPlatform = table.Column<string>(type: "text", nullable: true),
                    NewPlatform = table.Column<string>(type: "text", nullable: true),
                    Receiver = table.Column<string>(type: "text", nullable: true),
                    Free = table.Column<List<string>>(type: "text[]", nullable: false),
                    Closes = table.Column<DateOnly>(type: "date", nullable: true),
                    Accounts = table.Column<List<string>>(type: "text[]", nullable: false),
                    Preferred = table.Column<List<string>>(type: "text[]", nullable: false),
                    Skills = table.Column<List<string>>(type: "text[]", nullable: false),
                    Weight = table.Column<int>(type: "integer", nullable: false),
                    Wave = table.Column<string>(type: "text", nullable: true),
                    PinnedStart = table.Column<long>(type: "bigint", nullable: true),
                    PinnedTechnician = table.Column<string>(type: "text", nullable: true),
                    BenchTechnician = table.Column<string>(type: "text", nullable: true),
                    BenchStart = table.Column<long>(type: "bigint", nullable: true),
                    BenchHandsOnUntil = table.Column<long>(type: "bigint", nullable: true),
                    BenchEnd = table.Column<long>(type: "bigint", nullable: true),
                    Sequence = table.Column<int>(type: "integer", nullable: false),
                    Technician = table.Column<string>(type: "text", nullable: true),
                    Start = table.Column<long>(type: "bigint", nullable: true),
                    HandsOnUntil = table.Column<long>(type: "bigint", nullable: true),
                    Finish = table.Column<long>(type: "bigint", nullable: true),
                    End = table.Column<long>(type: "bigint", nullable: true),
                    LeftOutBecause = table.Column<string>(type: "text", nullable: true),
                    ChosenAt = table.Column<long>(type: "bigint", nullable: true),
                    Offer = table.Column<string>(type: "text", nullable: true),
                    Missed = table.Column<int>(type: "integer", nullable: false),
                    Prepared = table.Column<bool>(type: "boolean", nullable: false),
                    CalledOffAt = table.Column<long>(type: "bigint", nullable: true),
                    CalledOffBecause = table.Column<string>(type: "text", nullable: true),
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
                    CopiedAt = table.Column<long>(type: "bigint", nullable: true),
                    RestoreAt = table.Column<long>(type: "bigint", nullable: true),
                    RestoreWhole = table.Column<bool>(type: "boolean", nullable: false),
                    UrgentReadyAt = table.Column<long>(type: "bigint", nullable: true),
                    OldDiedAt = table.Column<long>(type: "bigint", nullable: true),
                    PurgedAt = table.Column<long>(type: "bigint", nullable: true),
                    RescuedFrom = table.Column<string>(type: "text", nullable: true),
                    RestoreSkippedBy = table.Column<string>(type: "text", nullable: true),
                    RestoreSkippedAt = table.Column<long>(type: "bigint", nullable: true),
                    RestoreSkipReason = table.Column<string>(type: "text", nullable: true),
                    ReceiverTag = table.Column<string>(type: "text", nullable: true),
                    ReceiverAcceptedBy = table.Column<string>(type: "text", nullable: true),
                    ReceiverAcceptedAt = table.Column<long>(type: "bigint", nullable: true),
                    ParcelId = table.Column<string>(type: "text", nullable: true),
                    Template = table.Column<string>(type: "text", nullable: false),
                    TemplateVersion = table.Column<int>(type: "integer", nullable: false),
                    ChecklistVersion = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Swaps", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Takings",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Number = table.Column<int>(type: "integer", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false),
                    At = table.Column<long>(type: "bigint", nullable: false),
                    Added = table.Column<int>(type: "integer", nullable: false),
                    Changed = table.Column<int>(type: "integer", nullable: false),
                    Before = table.Column<string>(type: "text", nullable: false),
                    UndoneAt = table.Column<long>(type: "bigint", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Takings", x => new { x.Refresh, x.Number });
                });

            migrationBuilder.CreateTable(
                name: "Technicians",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Key = table.Column<string>(type: "text", nullable: false),
                    Name = table.Column<string>(type: "text", nullable: false),
                    Sites = table.Column<List<string>>(type: "text[]", nullable: false),
                    Shifts = table.Column<List<string>>(type: "text[]", nullable: false),
                    Skills = table.Column<List<string>>(type: "text[]", nullable: false),
                    Absences = table.Column<List<string>>(type: "text[]", nullable: false)
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

            migrationBuilder.CreateTable(
                name: "Waits",
                columns: table => new
                {
                    Swap = table.Column<string>(type: "text", nullable: false),
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    From = table.Column<long>(type: "bigint", nullable: false),
                    Until = table.Column<long>(type: "bigint", nullable: false),
                    At = table.Column<long>(type: "bigint", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Waits", x => x.Swap);
                });

            migrationBuilder.CreateTable(
                name: "Waves",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    Key = table.Column<string>(type: "text", nullable: false),
                    Name = table.Column<string>(type: "text", nullable: false),
                    From = table.Column<DateOnly>(type: "date", nullable: false),
                    Until = table.Column<DateOnly>(type: "date", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Waves", x => new { x.Refresh, x.Key });
                });

            migrationBuilder.CreateTable(
                name: "Ways",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "text", nullable: false),
                    From = table.Column<string>(type: "text", nullable: false),
                    To = table.Column<string>(type: "text", nullable: false),
                    Minutes = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Ways", x => new { x.Refresh, x.From, x.To });
                });

            migrationBuilder.CreateIndex(
                name: "IX_Answers_At",
                table: "Answers",
                column: "At");

            migrationBuilder.CreateIndex(
                name: "IX_Custody_Refresh_Tag_At",
                table: "Custody",
                columns: new[] { "Refresh", "Tag", "At" });

            migrationBuilder.CreateIndex(
                name: "IX_Detours_Swap_At",
                table: "Detours",
                columns: new[] { "Swap", "At" });

            migrationBuilder.CreateIndex(
                name: "IX_Exchanges_Asked_End",
                table: "Exchanges",
                columns: new[] { "Asked", "End" });

            migrationBuilder.CreateIndex(
                name: "IX_Exchanges_Asks_End",
                table: "Exchanges",
                columns: new[] { "Asks", "End" });

            migrationBuilder.CreateIndex(
                name: "IX_FollowUps_Refresh_DoneAt_Due",
                table: "FollowUps",
                columns: new[] { "Refresh", "DoneAt", "Due" });

            migrationBuilder.CreateIndex(
                name: "IX_FollowUps_Swap_DoneAt",
                table: "FollowUps",
                columns: new[] { "Swap", "DoneAt" });

            migrationBuilder.CreateIndex(
                name: "IX_Handovers_Swap_At",
                table: "Handovers",
                columns: new[] { "Swap", "At" });

            migrationBuilder.CreateIndex(
                name: "IX_Hands_Refresh_Tag",
                table: "Hands",
                columns: new[] { "Refresh", "Tag" });

            migrationBuilder.CreateIndex(
                name: "IX_Ledger_Swap_Number",
                table: "Ledger",
                columns: new[] { "Swap", "Number" });

            migrationBuilder.CreateIndex(
                name: "IX_Links_Swap_MadeAt",
                table: "Links",
                columns: new[] { "Swap", "MadeAt" });

            migrationBuilder.CreateIndex(
                name: "IX_Notices_Refresh_TryAt",
                table: "Notices",
                columns: new[] { "Refresh", "TryAt" });

            migrationBuilder.CreateIndex(
                name: "IX_Notices_Swap_Key",
                table: "Notices",
                columns: new[] { "Swap", "Key" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_OldComputers_Refresh_Pallet",
                table: "OldComputers",
                columns: new[] { "Refresh", "Pallet" });

            migrationBuilder.CreateIndex(
                name: "IX_OldComputers_Swap",
                table: "OldComputers",
                column: "Swap");

            migrationBuilder.CreateIndex(
                name: "IX_Orders_Refresh_State_Swap",
                table: "Orders",
                columns: new[] { "Refresh", "State", "Swap" });

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
                name: "IX_Swaps_LeftOut",
                table: "Swaps",
                column: "Refresh",
                filter: "\"LeftOutBecause\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Swaps_Refresh_End",
                table: "Swaps",
                columns: new[] { "Refresh", "End" },
                filter: "\"SwappedAt\" IS NULL AND \"AcceptedAt\" IS NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Swaps_Refresh_Name_Id",
                table: "Swaps",
                columns: new[] { "Refresh", "Name", "Id" });

            migrationBuilder.CreateIndex(
                name: "IX_Swaps_Refresh_RestoredAt",
                table: "Swaps",
                columns: new[] { "Refresh", "RestoredAt" },
                filter: "\"RestoredAt\" IS NOT NULL AND \"AcceptedAt\" IS NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Swaps_Refresh_RosterKey",
                table: "Swaps",
                columns: new[] { "Refresh", "RosterKey" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Swaps_Refresh_Site_Kind_Next_Wave_Technician_Start_End_Acce~",
                table: "Swaps",
                columns: new[] { "Refresh", "Site", "Kind", "Next", "Wave", "Technician", "Start", "End", "AcceptedAt", "CalledOffAt" });

            migrationBuilder.CreateIndex(
                name: "IX_Swaps_Refresh_Start",
                table: "Swaps",
                columns: new[] { "Refresh", "Start" });

            migrationBuilder.CreateIndex(
                name: "IX_Waits_Refresh_At",
                table: "Waits",
                columns: new[] { "Refresh", "At" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "Accounts");

            migrationBuilder.DropTable(
                name: "Answers");

            migrationBuilder.DropTable(
                name: "Cargo");

            migrationBuilder.DropTable(
                name: "Catalogue");

            migrationBuilder.DropTable(
                name: "Closures");

            migrationBuilder.DropTable(
                name: "Codes");

            migrationBuilder.DropTable(
                name: "Columns");

            migrationBuilder.DropTable(
                name: "Custody");

            migrationBuilder.DropTable(
                name: "DataProtectionKeys");

            migrationBuilder.DropTable(
                name: "Deliveries");

            migrationBuilder.DropTable(
                name: "Depots");

            migrationBuilder.DropTable(
                name: "Detours");

            migrationBuilder.DropTable(
                name: "Estimates");

            migrationBuilder.DropTable(
                name: "Exchanges");

            migrationBuilder.DropTable(
                name: "Folders");

            migrationBuilder.DropTable(
                name: "FollowUps");

            migrationBuilder.DropTable(
                name: "Groups");

            migrationBuilder.DropTable(
                name: "Handovers");

            migrationBuilder.DropTable(
                name: "Hands");

            migrationBuilder.DropTable(
                name: "Ledger");

            migrationBuilder.DropTable(
                name: "LinkRefusals");

            migrationBuilder.DropTable(
                name: "Links");

            migrationBuilder.DropTable(
                name: "NoticeTexts");

            migrationBuilder.DropTable(
                name: "Notices");

            migrationBuilder.DropTable(
                name: "OldComputers");

            migrationBuilder.DropTable(
                name: "Orders");

            migrationBuilder.DropTable(
                name: "People");

            migrationBuilder.DropTable(
                name: "Photos");

            migrationBuilder.DropTable(
                name: "Plans");

            migrationBuilder.DropTable(
                name: "Refreshes");

            migrationBuilder.DropTable(
                name: "SignOffs");

            migrationBuilder.DropTable(
                name: "Sites");

            migrationBuilder.DropTable(
                name: "Snags");

            migrationBuilder.DropTable(
                name: "Spares");

            migrationBuilder.DropTable(
                name: "Steps");

            migrationBuilder.DropTable(
                name: "Swaps");

            migrationBuilder.DropTable(
                name: "Takings");

            migrationBuilder.DropTable(
                name: "Technicians");

            migrationBuilder.DropTable(
                name: "Templates");

            migrationBuilder.DropTable(
                name: "Tokens");

            migrationBuilder.DropTable(
                name: "Waits");

            migrationBuilder.DropTable(
                name: "Waves");

            migrationBuilder.DropTable(
                name: "Ways");
        }
    }
}
