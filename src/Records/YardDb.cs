using Microsoft.AspNetCore.DataProtection.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage.ValueConversion;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.Sources;
using YardRelay.Core.Custody;
using YardRelay.Core.Detours;
using YardRelay.Core.FollowUps;
using YardRelay.Core.Planning.Worlds;
using YardRelay.Core.SignOffs;
using YardRelay.Core.Swaps;

namespace YardRelay.Records;

/// <summary>The service's records. Current state in ordinary tables; beside it, in the same transaction, the ledger.</summary>
public sealed partial class YardDb(DbContextOptions<YardDb> options) : DbContext(options), IDataProtectionKeyContext
{
#pragma warning disable CS1591
    public DbSet<RefreshRow> Refreshes => Set<RefreshRow>();
    public DbSet<SiteRow> Sites => Set<SiteRow>();
    public DbSet<TechnicianRow> Technicians => Set<TechnicianRow>();
    public DbSet<DepotRow> Depots => Set<DepotRow>();
    public DbSet<WayRow> Ways => Set<WayRow>();
    public DbSet<ClosureRow> Closures => Set<ClosureRow>();
    public DbSet<DeliveryRow> Deliveries => Set<DeliveryRow>();
    public DbSet<WaveRow> Waves => Set<WaveRow>();
    public DbSet<EstimateRow> Estimates => Set<EstimateRow>();
    public DbSet<PlanRow> Plans => Set<PlanRow>();
    public DbSet<TakingRow> Takings => Set<TakingRow>();
    public DbSet<ColumnRow> Columns => Set<ColumnRow>();
    public DbSet<PersonRow> People => Set<PersonRow>();
    public DbSet<SwapRow> Swaps => Set<SwapRow>();
    public DbSet<CargoRow> Cargo => Set<CargoRow>();
    public DbSet<CatalogueRow> Catalogue => Set<CatalogueRow>();
    public DbSet<FolderRow> Folders => Set<FolderRow>();
    public DbSet<SnagRow> Snags => Set<SnagRow>();
    public DbSet<TemplateRow> Templates => Set<TemplateRow>();
    public DbSet<StepRow> Steps => Set<StepRow>();
    public DbSet<SignOffRow> SignOffs => Set<SignOffRow>();
    public DbSet<HandoverRow> Handovers => Set<HandoverRow>();
    public DbSet<FollowUpRow> FollowUps => Set<FollowUpRow>();
    public DbSet<DetourRow> Detours => Set<DetourRow>();
    public DbSet<SpareRow> Spares => Set<SpareRow>();
    public DbSet<PhotoRow> Photos => Set<PhotoRow>();
    public DbSet<OldComputerRow> OldComputers => Set<OldComputerRow>();
    public DbSet<CustodyRow> Custody => Set<CustodyRow>();
    public DbSet<AccountRow> Accounts => Set<AccountRow>();
    public DbSet<PasskeyRow> Passkeys => Set<PasskeyRow>();
    public DbSet<RecoveryRow> Recoveries => Set<RecoveryRow>();
    public DbSet<AskingRow> Askings => Set<AskingRow>();
    public DbSet<StaffGroupRow> StaffGroups => Set<StaffGroupRow>();
    public DbSet<TokenRow> Tokens => Set<TokenRow>();
    public DbSet<ServiceRow> Services => Set<ServiceRow>();
    public DbSet<FeedRow> Feeds => Set<FeedRow>();
    public DbSet<GuessRow> Guesses => Set<GuessRow>();
    public DbSet<CodeRow> Codes => Set<CodeRow>();
    public DbSet<LinkRow> Links => Set<LinkRow>();
    public DbSet<GroupRow> Groups => Set<GroupRow>();
    public DbSet<WaitRow> Waits => Set<WaitRow>();
    public DbSet<ExchangeRow> Exchanges => Set<ExchangeRow>();
    public DbSet<NoticeRow> Notices => Set<NoticeRow>();
    public DbSet<MorningMailRow> MorningMails => Set<MorningMailRow>();
    public DbSet<NoticeTextRow> NoticeTexts => Set<NoticeTextRow>();
    public DbSet<LinkRefusalRow> LinkRefusals => Set<LinkRefusalRow>();
    public DbSet<HandRow> Hands => Set<HandRow>();
    public DbSet<OrderRow> Orders => Set<OrderRow>();
    public DbSet<LedgerRow> Ledger => Set<LedgerRow>();
    public DbSet<AnswerRow> Answers => Set<AnswerRow>();
    public DbSet<DataProtectionKey> DataProtectionKeys => Set<DataProtectionKey>();
#pragma warning restore CS1591

    /// <summary>Whether this is PostgreSQL.</summary>
    public bool IsPostgres => Database.ProviderName == "Npgsql.EntityFrameworkCore.PostgreSQL";

    /// <summary>
    /// Reads a refresh so that no other writer changes it or its ledger until commit. On SQLite the transaction has the write lock already;
    /// PostgreSQL locks the row.
    /// </summary>
    public Task<RefreshRow?> LockRefreshAsync(string key, CancellationToken cancel) => IsPostgres
        ? Refreshes.FromSql($"""SELECT * FROM "Refreshes" WHERE "Key" = {key} FOR UPDATE""").SingleOrDefaultAsync(cancel)
        : Refreshes.SingleOrDefaultAsync(r => r.Key == key, cancel);

    /// <inheritdoc/>
    protected override void ConfigureConventions(ModelConfigurationBuilder configuration)
    {
        // Microseconds since 1970 on both databases: one order, one precision.
        configuration.Properties<DateTimeOffset>().HaveConversion<MicrosecondsConverter>();
        configuration.Properties<SwapKind>().HaveConversion<string>();
        configuration.Properties<SnagKind>().HaveConversion<string>();
        configuration.Properties<DoubtKind>().HaveConversion<string>();
        configuration.Properties<SourceVerdict>().HaveConversion<string>();
        configuration.Properties<SignOffPart>().HaveConversion<string>();
        configuration.Properties<FollowUpHold>().HaveConversion<string>();
        configuration.Properties<DetourKind>().HaveConversion<string>();
        configuration.Properties<CustodyAct>().HaveConversion<string>();
        configuration.Properties<EstimateScope>().HaveConversion<string>();
    }

    /// <inheritdoc/>
    protected override void OnModelCreating(ModelBuilder model)
    {
        model.Entity<RefreshRow>().HasKey(r => r.Key);
        model.Entity<SiteRow>().HasKey(r => new { r.Refresh, r.Key });
        model.Entity<TechnicianRow>().HasKey(r => new { r.Refresh, r.Key });
        model.Entity<DepotRow>().HasKey(r => new { r.Refresh, r.Key });
        model.Entity<WayRow>().HasKey(r => new { r.Refresh, r.From, r.To });
        model.Entity<ClosureRow>().HasKey(r => new { r.Refresh, r.Key });
        model.Entity<DeliveryRow>().HasKey(r => new { r.Refresh, r.Key });
        model.Entity<WaveRow>().HasKey(r => new { r.Refresh, r.Key });
        model.Entity<EstimateRow>().HasKey(r => new { r.Refresh, r.Scope, r.Of });
        model.Entity<PlanRow>().HasKey(r => new { r.Refresh, r.Number });
        model.Entity<TakingRow>().HasKey(r => new { r.Refresh, r.Number });
        model.Entity<ColumnRow>().HasKey(r => new { r.Refresh, r.Head });
        model.Entity<PersonRow>().HasKey(r => new { r.Refresh, r.Key });
        model.Entity<SwapRow>(swap =>
        {
            swap.HasKey(r => r.Id);
            swap.HasIndex(r => new { r.Refresh, r.RosterKey }).IsUnique();
            swap.HasIndex(r => new { r.Refresh, r.Start });
            swap.HasIndex(r => new { r.Refresh, r.Name, r.Id });
            // The few that somebody has to look at, among the many that nobody has to.
            swap.HasIndex(r => r.Refresh, "IX_Swaps_LeftOut").HasFilter("\"LeftOutBecause\" IS NOT NULL");
            swap.HasIndex(r => new { r.Refresh, r.RestoredAt }).HasFilter("\"RestoredAt\" IS NOT NULL AND \"AcceptedAt\" IS NULL");
            swap.HasIndex(r => new { r.Refresh, r.End }).HasFilter("\"SwappedAt\" IS NULL AND \"AcceptedAt\" IS NULL");
            // All that the yard counts, so that counting reads this and not the rows.
            swap.HasIndex(r =>
                new { r.Refresh, r.Site, r.Kind, r.Next, r.Wave, r.Technician, r.Start, r.End, r.AcceptedAt, r.CalledOffAt });
        });
        model.Entity<GroupRow>().HasKey(r => new { r.Refresh, r.Key });
        model.Entity<MorningMailRow>().HasKey(r => r.Refresh);
        model.Entity<WaitRow>(wait =>
        {
            wait.HasKey(r => r.Swap);
            wait.HasIndex(r => new { r.Refresh, r.At });
        });
        model.Entity<ExchangeRow>(exchange =>
        {
            exchange.HasKey(r => r.Id);
            exchange.HasIndex(r => new { r.Asks, r.End });
            exchange.HasIndex(r => new { r.Asked, r.End });
        });
        model.Entity<FolderRow>().HasKey(r => new { r.Swap, r.Folder });
        model.Entity<FolderRow>().Ignore(r => r.Old).Ignore(r => r.LeftOut).Ignore(r => r.Depot);
        model.Entity<CargoRow>().HasKey(r => r.Swap);
        model.Entity<CatalogueRow>().HasKey(r => new { r.Refresh, r.Key });
        model.Entity<SnagRow>(snag =>
        {
            snag.HasKey(r => r.Id);
            snag.HasIndex(r => new { r.Swap, r.End });
            snag.HasIndex(r => new { r.Refresh, r.End });
        });
        model.Entity<TemplateRow>().HasKey(r => new { r.Refresh, r.Name, r.Version });
        model.Entity<StepRow>().HasKey(r => new { r.Swap, r.Key });
        model.Entity<SignOffRow>().HasKey(r => new { r.Swap, r.Part });
        model.Entity<HandoverRow>(handover =>
        {
            handover.HasKey(r => r.Id);
            handover.HasIndex(r => new { r.Swap, r.At });
        });
        model.Entity<DetourRow>(detour =>
        {
            detour.HasKey(r => r.Id);
            detour.HasIndex(r => new { r.Swap, r.At });
        });
        model.Entity<SpareRow>().HasKey(r => new { r.Refresh, r.Key });
        model.Entity<PhotoRow>().HasKey(r => new { r.Swap, r.Step, r.Sha256 });
        model.Entity<FollowUpRow>(follow =>
        {
            follow.HasKey(r => r.Id);
            follow.HasIndex(r => new { r.Swap, r.DoneAt });
            follow.HasIndex(r => new { r.Refresh, r.DoneAt, r.Due });
        });
        model.Entity<OldComputerRow>(computer =>
        {
            computer.HasKey(r => new { r.Refresh, r.Tag });
            computer.HasIndex(r => new { r.Refresh, r.Pallet });
            computer.HasIndex(r => r.Swap);
        });
        model.Entity<CustodyRow>(custody =>
        {
            custody.HasKey(r => r.Id);
            custody.HasIndex(r => new { r.Refresh, r.Tag, r.At });
        });
        model.Entity<AccountRow>(account =>
        {
            account.HasKey(r => r.Name);
            account.HasIndex(r => new { r.Issuer, r.Subject }).IsUnique().HasFilter("\"Subject\" IS NOT NULL");
        });
        model.Entity<PasskeyRow>(passkey =>
        {
            passkey.HasKey(r => r.Id);
            passkey.HasIndex(r => r.Account);
        });
        model.Entity<RecoveryRow>(recovery =>
        {
            recovery.HasKey(r => r.Sha256);
            recovery.HasIndex(r => r.Account);
        });
        model.Entity<AskingRow>(asking =>
        {
            asking.HasKey(r => r.Sha256);
            asking.HasIndex(r => r.Code).IsUnique();
        });
        model.Entity<StaffGroupRow>().HasKey(r => r.Name);
        model.Entity<TokenRow>(token =>
        {
            token.HasKey(r => r.Sha256);
            token.HasIndex(r => r.Account);
        });
        model.Entity<LinkRow>(link =>
        {
            link.HasKey(r => r.Sha256);
            link.HasIndex(r => new { r.Swap, r.MadeAt });
        });
        model.Entity<NoticeRow>(notice =>
        {
            notice.HasKey(r => r.Id);
            notice.HasIndex(r => new { r.Swap, r.Key }).IsUnique();
            notice.HasIndex(r => new { r.Refresh, r.TryAt });
        });
        model.Entity<ServiceRow>().HasKey(r => r.Key);
        model.Entity<FeedRow>(feed =>
        {
            feed.HasKey(r => r.Sha256);
            feed.HasIndex(r => new { r.Refresh, r.MadeAt });
        });
        model.Entity<NoticeTextRow>().HasKey(r => new { r.Refresh, r.Moment, r.Language });
        model.Entity<LinkRefusalRow>().HasKey(r => new { r.Day, r.Cause });
        model.Entity<GuessRow>(guess =>
        {
            guess.HasKey(r => r.Of);
            guess.HasIndex(r => r.Since);
        });
        model.Entity<CodeRow>().HasKey(r => r.Sha256);
        model.Entity<HandRow>(hand =>
        {
            hand.HasKey(r => r.Id);
            hand.HasIndex(r => new { r.Refresh, r.Tag });
        });
        model.Entity<OrderRow>(order =>
        {
            order.HasKey(r => r.Id);
            order.HasIndex(r => new { r.Refresh, r.Tag, r.State });
            order.HasIndex(r => new { r.Refresh, r.State, r.Swap });
            order.HasIndex(r => new { r.Swap, r.MadeAt });
        });
        model.Entity<LedgerRow>(ledger =>
        {
            ledger.HasKey(r => new { r.Refresh, r.Number });
            ledger.HasIndex(r => new { r.Swap, r.Number });
        });
        model.Entity<AnswerRow>(answer =>
        {
            answer.HasKey(r => new { r.Account, r.Key });
            answer.HasIndex(r => r.At);
        });
        if (IsNarrow) SeeSome(model);
    }

    private sealed class MicrosecondsConverter() : ValueConverter<DateTimeOffset, long>(
        at => (at.UtcTicks - DateTimeOffset.UnixEpoch.UtcTicks) / TimeSpan.TicksPerMicrosecond,
        micros => new DateTimeOffset(DateTimeOffset.UnixEpoch.UtcTicks + (micros * TimeSpan.TicksPerMicrosecond), TimeSpan.Zero));
}
