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
                name: "Cargo",
                columns: table => new
                {
                    Swap = table.Column<string>(type: "TEXT", nullable: false),
                    Inventory = table.Column<string>(type: "TEXT", nullable: true),
                    NewComputer = table.Column<string>(type: "TEXT", nullable: true),
                    CarryList = table.Column<string>(type: "TEXT", nullable: true),
                    Landing = table.Column<string>(type: "TEXT", nullable: true),
                    LeftOutBy = table.Column<string>(type: "TEXT", nullable: true),
                    ParcelKey = table.Column<string>(type: "TEXT", nullable: true),
                    Passphrase = table.Column<string>(type: "TEXT", nullable: true),
                    PassphraseAt = table.Column<long>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Cargo", x => x.Swap);
                });

            migrationBuilder.CreateTable(
                name: "Catalogue",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Key = table.Column<string>(type: "TEXT", nullable: false),
                    Program = table.Column<string>(type: "TEXT", nullable: false),
                    Offer = table.Column<string>(type: "TEXT", nullable: false),
                    Where = table.Column<string>(type: "TEXT", nullable: true),
                    IsLicenceBound = table.Column<bool>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Catalogue", x => new { x.Refresh, x.Key });
                });

            migrationBuilder.CreateTable(
                name: "Closures",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Key = table.Column<string>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Site = table.Column<string>(type: "TEXT", nullable: true),
                    At = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Closures", x => new { x.Refresh, x.Key });
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
                name: "Columns",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Head = table.Column<string>(type: "TEXT", nullable: false),
                    Column = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Columns", x => new { x.Refresh, x.Head });
                });

            migrationBuilder.CreateTable(
                name: "Custody",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Tag = table.Column<string>(type: "TEXT", nullable: false),
                    Act = table.Column<string>(type: "TEXT", nullable: false),
                    Where = table.Column<string>(type: "TEXT", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false),
                    Recorded = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Custody", x => x.Id);
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
                name: "Deliveries",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Key = table.Column<string>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Arrives = table.Column<string>(type: "TEXT", nullable: false),
                    Tags = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Deliveries", x => new { x.Refresh, x.Key });
                });

            migrationBuilder.CreateTable(
                name: "Depots",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Key = table.Column<string>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Address = table.Column<string>(type: "TEXT", nullable: false),
                    CapacityBytes = table.Column<long>(type: "INTEGER", nullable: true),
                    DailyBytes = table.Column<long>(type: "INTEGER", nullable: true),
                    HoldDays = table.Column<int>(type: "INTEGER", nullable: false),
                    EndsOn = table.Column<DateOnly>(type: "TEXT", nullable: true),
                    SealTo = table.Column<string>(type: "TEXT", nullable: false),
                    Limits = table.Column<string>(type: "TEXT", nullable: false),
                    Access = table.Column<string>(type: "TEXT", nullable: true),
                    CopyTo = table.Column<string>(type: "TEXT", nullable: true),
                    FreeBytes = table.Column<long>(type: "INTEGER", nullable: true),
                    HeardAt = table.Column<long>(type: "INTEGER", nullable: true),
                    Trouble = table.Column<string>(type: "TEXT", nullable: true),
                    BytesPerSecond = table.Column<double>(type: "REAL", nullable: false),
                    Observed = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Depots", x => new { x.Refresh, x.Key });
                });

            migrationBuilder.CreateTable(
                name: "Detours",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Swap = table.Column<string>(type: "TEXT", nullable: false),
                    Kind = table.Column<string>(type: "TEXT", nullable: false),
                    Words = table.Column<string>(type: "TEXT", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Detours", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Estimates",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Scope = table.Column<string>(type: "TEXT", nullable: false),
                    Of = table.Column<string>(type: "TEXT", nullable: false),
                    BeforeMinutes = table.Column<int>(type: "INTEGER", nullable: true),
                    UnattendedMinutes = table.Column<int>(type: "INTEGER", nullable: true),
                    AfterMinutes = table.Column<int>(type: "INTEGER", nullable: true),
                    HasBench = table.Column<bool>(type: "INTEGER", nullable: false),
                    BenchSite = table.Column<string>(type: "TEXT", nullable: true),
                    BenchHandsOnMinutes = table.Column<int>(type: "INTEGER", nullable: false),
                    BenchUnattendedMinutes = table.Column<int>(type: "INTEGER", nullable: false),
                    BenchGapMinutes = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Estimates", x => new { x.Refresh, x.Scope, x.Of });
                });

            migrationBuilder.CreateTable(
                name: "Exchanges",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Asks = table.Column<string>(type: "TEXT", nullable: false),
                    AsksStart = table.Column<long>(type: "INTEGER", nullable: false),
                    Asked = table.Column<string>(type: "TEXT", nullable: false),
                    AskedStart = table.Column<long>(type: "INTEGER", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false),
                    End = table.Column<string>(type: "TEXT", nullable: true),
                    EndedAt = table.Column<long>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Exchanges", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Folders",
                columns: table => new
                {
                    Swap = table.Column<string>(type: "TEXT", nullable: false),
                    Folder = table.Column<string>(type: "TEXT", nullable: false),
                    OldFiles = table.Column<long>(type: "INTEGER", nullable: false),
                    OldBytes = table.Column<long>(type: "INTEGER", nullable: false),
                    LeftOutFiles = table.Column<long>(type: "INTEGER", nullable: false),
                    LeftOutBytes = table.Column<long>(type: "INTEGER", nullable: false),
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
                name: "FollowUps",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Swap = table.Column<string>(type: "TEXT", nullable: false),
                    Words = table.Column<string>(type: "TEXT", nullable: false),
                    Owner = table.Column<string>(type: "TEXT", nullable: false),
                    Due = table.Column<long>(type: "INTEGER", nullable: false),
                    Holds = table.Column<string>(type: "TEXT", nullable: false),
                    Cause = table.Column<string>(type: "TEXT", nullable: false),
                    MadeBy = table.Column<string>(type: "TEXT", nullable: false),
                    MadeAt = table.Column<long>(type: "INTEGER", nullable: false),
                    DoneBy = table.Column<string>(type: "TEXT", nullable: true),
                    DoneAt = table.Column<long>(type: "INTEGER", nullable: true),
                    Outcome = table.Column<string>(type: "TEXT", nullable: true),
                    VisitMinutes = table.Column<int>(type: "INTEGER", nullable: true),
                    VisitTechnician = table.Column<string>(type: "TEXT", nullable: true),
                    VisitStart = table.Column<long>(type: "INTEGER", nullable: true),
                    VisitEnd = table.Column<long>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_FollowUps", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Groups",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Key = table.Column<string>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Swaps = table.Column<string>(type: "TEXT", nullable: false),
                    AtOnce = table.Column<int>(type: "INTEGER", nullable: true),
                    OneDay = table.Column<bool>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Groups", x => new { x.Refresh, x.Key });
                });

            migrationBuilder.CreateTable(
                name: "Handovers",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Swap = table.Column<string>(type: "TEXT", nullable: false),
                    From = table.Column<string>(type: "TEXT", nullable: false),
                    To = table.Column<string>(type: "TEXT", nullable: false),
                    Note = table.Column<string>(type: "TEXT", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Handovers", x => x.Id);
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
                name: "LinkRefusals",
                columns: table => new
                {
                    Day = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Cause = table.Column<string>(type: "TEXT", nullable: false),
                    Count = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_LinkRefusals", x => new { x.Day, x.Cause });
                });

            migrationBuilder.CreateTable(
                name: "Links",
                columns: table => new
                {
                    Sha256 = table.Column<string>(type: "TEXT", nullable: false),
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Swap = table.Column<string>(type: "TEXT", nullable: false),
                    MadeBy = table.Column<string>(type: "TEXT", nullable: false),
                    MadeAt = table.Column<long>(type: "INTEGER", nullable: false),
                    Expires = table.Column<long>(type: "INTEGER", nullable: false),
                    WithdrawnAt = table.Column<long>(type: "INTEGER", nullable: true),
                    OpenedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    SeenAt = table.Column<long>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Links", x => x.Sha256);
                });

            migrationBuilder.CreateTable(
                name: "NoticeTexts",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Moment = table.Column<string>(type: "TEXT", nullable: false),
                    Language = table.Column<string>(type: "TEXT", nullable: false),
                    Text = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_NoticeTexts", x => new { x.Refresh, x.Moment, x.Language });
                });

            migrationBuilder.CreateTable(
                name: "Notices",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Swap = table.Column<string>(type: "TEXT", nullable: false),
                    Key = table.Column<string>(type: "TEXT", nullable: false),
                    Moment = table.Column<string>(type: "TEXT", nullable: false),
                    Language = table.Column<string>(type: "TEXT", nullable: false),
                    To = table.Column<string>(type: "TEXT", nullable: false),
                    Subject = table.Column<string>(type: "TEXT", nullable: false),
                    Start = table.Column<long>(type: "INTEGER", nullable: true),
                    MadeAt = table.Column<long>(type: "INTEGER", nullable: false),
                    LastUseful = table.Column<long>(type: "INTEGER", nullable: false),
                    TryAt = table.Column<long>(type: "INTEGER", nullable: true),
                    HandedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    Tries = table.Column<int>(type: "INTEGER", nullable: false),
                    SentAt = table.Column<long>(type: "INTEGER", nullable: true),
                    BouncedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    Trouble = table.Column<string>(type: "TEXT", nullable: true),
                    Link = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Notices", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "OldComputers",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Tag = table.Column<string>(type: "TEXT", nullable: false),
                    Swap = table.Column<string>(type: "TEXT", nullable: false),
                    Holder = table.Column<string>(type: "TEXT", nullable: true),
                    Place = table.Column<string>(type: "TEXT", nullable: true),
                    Pallet = table.Column<string>(type: "TEXT", nullable: true),
                    MovedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    End = table.Column<string>(type: "TEXT", nullable: true),
                    EndedTo = table.Column<string>(type: "TEXT", nullable: true),
                    WipeMethod = table.Column<string>(type: "TEXT", nullable: true),
                    WipeResult = table.Column<string>(type: "TEXT", nullable: true),
                    WipeEvidence = table.Column<string>(type: "TEXT", nullable: true),
                    WipedBy = table.Column<string>(type: "TEXT", nullable: true),
                    WipedAt = table.Column<long>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_OldComputers", x => new { x.Refresh, x.Tag });
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
                    Words = table.Column<string>(type: "TEXT", nullable: true),
                    Folder = table.Column<string>(type: "TEXT", nullable: true),
                    ByNeed = table.Column<bool>(type: "INTEGER", nullable: false),
                    Beside = table.Column<bool>(type: "INTEGER", nullable: false),
                    PausedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    Waits = table.Column<string>(type: "TEXT", nullable: true),
                    Landing = table.Column<string>(type: "TEXT", nullable: true)
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
                    Department = table.Column<string>(type: "TEXT", nullable: true),
                    Role = table.Column<string>(type: "TEXT", nullable: true),
                    Language = table.Column<string>(type: "TEXT", nullable: true),
                    MailOff = table.Column<bool>(type: "INTEGER", nullable: false),
                    NamesAllowedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    ErasedAt = table.Column<long>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_People", x => new { x.Refresh, x.Key });
                });

            migrationBuilder.CreateTable(
                name: "Photos",
                columns: table => new
                {
                    Sha256 = table.Column<string>(type: "TEXT", nullable: false),
                    Swap = table.Column<string>(type: "TEXT", nullable: false),
                    Step = table.Column<string>(type: "TEXT", nullable: false),
                    Kind = table.Column<string>(type: "TEXT", nullable: false),
                    Width = table.Column<int>(type: "INTEGER", nullable: false),
                    Height = table.Column<int>(type: "INTEGER", nullable: false),
                    Content = table.Column<byte[]>(type: "BLOB", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Photos", x => new { x.Swap, x.Step, x.Sha256 });
                });

            migrationBuilder.CreateTable(
                name: "Plans",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Number = table.Column<int>(type: "INTEGER", nullable: false),
                    State = table.Column<string>(type: "TEXT", nullable: false),
                    Version = table.Column<int>(type: "INTEGER", nullable: false),
                    BasedOn = table.Column<int>(type: "INTEGER", nullable: false),
                    MadeBy = table.Column<string>(type: "TEXT", nullable: false),
                    MadeAt = table.Column<long>(type: "INTEGER", nullable: false),
                    PublishedBy = table.Column<string>(type: "TEXT", nullable: true),
                    PublishedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    Placed = table.Column<int>(type: "INTEGER", nullable: false),
                    LeftOut = table.Column<int>(type: "INTEGER", nullable: false),
                    Cost = table.Column<int>(type: "INTEGER", nullable: false),
                    Body = table.Column<string>(type: "TEXT", nullable: false),
                    Moves = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Plans", x => new { x.Refresh, x.Number });
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
                    LastSwap = table.Column<int>(type: "INTEGER", nullable: false),
                    PlaceRules = table.Column<string>(type: "TEXT", nullable: true),
                    WorldVersion = table.Column<long>(type: "INTEGER", nullable: false),
                    OldHoldDays = table.Column<int>(type: "INTEGER", nullable: false),
                    NoticesSince = table.Column<long>(type: "INTEGER", nullable: true),
                    ChooseHours = table.Column<int>(type: "INTEGER", nullable: false),
                    MostPerSlot = table.Column<int>(type: "INTEGER", nullable: true),
                    AsksForNames = table.Column<bool>(type: "INTEGER", nullable: false),
                    KeepDays = table.Column<int>(type: "INTEGER", nullable: true),
                    LastPlan = table.Column<int>(type: "INTEGER", nullable: false)
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
                    Saw = table.Column<string>(type: "TEXT", nullable: false),
                    Witness = table.Column<string>(type: "TEXT", nullable: true),
                    Drawn = table.Column<string>(type: "TEXT", nullable: true)
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
                    Benches = table.Column<int>(type: "INTEGER", nullable: false),
                    Rooms = table.Column<string>(type: "TEXT", nullable: false),
                    Opens = table.Column<string>(type: "TEXT", nullable: false),
                    Limits = table.Column<string>(type: "TEXT", nullable: false)
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
                    Files = table.Column<long>(type: "INTEGER", nullable: false),
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
                name: "Spares",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Key = table.Column<string>(type: "TEXT", nullable: false),
                    Model = table.Column<string>(type: "TEXT", nullable: true),
                    Site = table.Column<string>(type: "TEXT", nullable: false),
                    Trouble = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Spares", x => new { x.Refresh, x.Key });
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
                    Reason = table.Column<string>(type: "TEXT", nullable: true),
                    Value = table.Column<string>(type: "TEXT", nullable: true),
                    StartedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    Runs = table.Column<int>(type: "INTEGER", nullable: false)
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
                    OldPlatform = table.Column<string>(type: "TEXT", nullable: true),
                    NewPlatform = table.Column<string>(type: "TEXT", nullable: true),
                    Receiver = table.Column<string>(type: "TEXT", nullable: true),
                    Free = table.Column<string>(type: "TEXT", nullable: false),
                    Closes = table.Column<DateOnly>(type: "TEXT", nullable: true),
                    Accounts = table.Column<string>(type: "TEXT", nullable: false),
                    Preferred = table.Column<string>(type: "TEXT", nullable: false),
                    Skills = table.Column<string>(type: "TEXT", nullable: false),
                    Weight = table.Column<int>(type: "INTEGER", nullable: false),
                    Wave = table.Column<string>(type: "TEXT", nullable: true),
                    PinnedStart = table.Column<long>(type: "INTEGER", nullable: true),
                    PinnedTechnician = table.Column<string>(type: "TEXT", nullable: true),
                    BenchTechnician = table.Column<string>(type: "TEXT", nullable: true),
                    BenchStart = table.Column<long>(type: "INTEGER", nullable: true),
                    BenchHandsOnUntil = table.Column<long>(type: "INTEGER", nullable: true),
                    BenchEnd = table.Column<long>(type: "INTEGER", nullable: true),
                    Sequence = table.Column<int>(type: "INTEGER", nullable: false),
                    Technician = table.Column<string>(type: "TEXT", nullable: true),
                    Start = table.Column<long>(type: "INTEGER", nullable: true),
                    HandsOnUntil = table.Column<long>(type: "INTEGER", nullable: true),
                    Finish = table.Column<long>(type: "INTEGER", nullable: true),
                    End = table.Column<long>(type: "INTEGER", nullable: true),
                    LeftOutBecause = table.Column<string>(type: "TEXT", nullable: true),
                    ChosenAt = table.Column<long>(type: "INTEGER", nullable: true),
                    Offer = table.Column<string>(type: "TEXT", nullable: true),
                    Missed = table.Column<int>(type: "INTEGER", nullable: false),
                    Prepared = table.Column<bool>(type: "INTEGER", nullable: false),
                    CalledOffAt = table.Column<long>(type: "INTEGER", nullable: true),
                    CalledOffBecause = table.Column<string>(type: "TEXT", nullable: true),
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
                    CopiedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    RestoreAt = table.Column<long>(type: "INTEGER", nullable: true),
                    RestoreWhole = table.Column<bool>(type: "INTEGER", nullable: false),
                    UrgentReadyAt = table.Column<long>(type: "INTEGER", nullable: true),
                    OldDiedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    PurgedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    RescuedFrom = table.Column<string>(type: "TEXT", nullable: true),
                    RestoreSkippedBy = table.Column<string>(type: "TEXT", nullable: true),
                    RestoreSkippedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    RestoreSkipReason = table.Column<string>(type: "TEXT", nullable: true),
                    ReceiverTag = table.Column<string>(type: "TEXT", nullable: true),
                    ReceiverAcceptedBy = table.Column<string>(type: "TEXT", nullable: true),
                    ReceiverAcceptedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    ParcelId = table.Column<string>(type: "TEXT", nullable: true),
                    Template = table.Column<string>(type: "TEXT", nullable: false),
                    TemplateVersion = table.Column<int>(type: "INTEGER", nullable: false),
                    ChecklistVersion = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Swaps", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Takings",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Number = table.Column<int>(type: "INTEGER", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false),
                    Added = table.Column<int>(type: "INTEGER", nullable: false),
                    Changed = table.Column<int>(type: "INTEGER", nullable: false),
                    Before = table.Column<string>(type: "TEXT", nullable: false),
                    UndoneAt = table.Column<long>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Takings", x => new { x.Refresh, x.Number });
                });

            migrationBuilder.CreateTable(
                name: "Technicians",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Key = table.Column<string>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Sites = table.Column<string>(type: "TEXT", nullable: false),
                    Shifts = table.Column<string>(type: "TEXT", nullable: false),
                    Skills = table.Column<string>(type: "TEXT", nullable: false),
                    Absences = table.Column<string>(type: "TEXT", nullable: false)
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

            migrationBuilder.CreateTable(
                name: "Waits",
                columns: table => new
                {
                    Swap = table.Column<string>(type: "TEXT", nullable: false),
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    From = table.Column<long>(type: "INTEGER", nullable: false),
                    Until = table.Column<long>(type: "INTEGER", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Waits", x => x.Swap);
                });

            migrationBuilder.CreateTable(
                name: "Waves",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    Key = table.Column<string>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    From = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Until = table.Column<DateOnly>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Waves", x => new { x.Refresh, x.Key });
                });

            migrationBuilder.CreateTable(
                name: "Ways",
                columns: table => new
                {
                    Refresh = table.Column<string>(type: "TEXT", nullable: false),
                    From = table.Column<string>(type: "TEXT", nullable: false),
                    To = table.Column<string>(type: "TEXT", nullable: false),
                    Minutes = table.Column<int>(type: "INTEGER", nullable: false)
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
                name: "IX_Swaps_Refresh_Site_Kind_Next_Wave_Technician_Start_End_AcceptedAt_CalledOffAt",
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
