using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Diagnostics.HealthChecks;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Clocks;
using YardRelay.Service.Keeping;

namespace YardRelay.Service;

/// <summary>What must be done before the first request.</summary>
internal static partial class StartUp
{
    /// <param name="given">The options that the program was started with.</param>
    /// <exception cref="BadSettingException">The service cannot go by what it was told.</exception>
    public static async Task PrepareAsync(
        IServiceProvider services, ServiceOptions options, IReadOnlyList<string> given, CancellationToken cancel)
    {
        var records = services.GetRequiredService<IDbContextFactory<YardDb>>();
        await using var db = await records.CreateDbContextAsync(cancel);
        await Schema.PrepareAsync(db, cancel);
        await KeyRing.PrepareAsync(services, db, options.Key, options.KeyAnew, cancel);
        var log = services.GetRequiredService<ILogger<ServiceOptions>>();
        foreach (var secret in Settings.SecretsIn(given)) InProcessList(log, secret, secret.Replace('-', '_').ToUpperInvariant());
        if (ShutState.ShutDepot(options.DepotFolder) is { } why) DepotStandsOpen(log, options.DepotFolder, why);
        if (services.GetRequiredService<TimeProvider>() is PractisedClock practised)
            Practises(services.GetRequiredService<ILogger<PractisedClock>>(), practised.Ahead, practised.GetUtcNow());
        await services.GetRequiredService<Ended>().ApplyAsync(db, cancel);
        await SignedHeads.PrepareAsync(
            db, services.GetRequiredService<LedgerSigner>(), services.GetRequiredService<ServiceLedger>(), options.KeyAnew, cancel);
        await AccountDesk.BindPeopleAsync(db, cancel);
        if (options.FirstAccount is { } first && !await db.Accounts.AnyAsync(cancel))
            await MakeFirstAsync(db, services.GetRequiredService<AccountDesk>(), first, cancel);
    }

    private static async Task MakeFirstAsync(YardDb db, AccountDesk desk, string first, CancellationToken cancel)
    {
        if (first.Split(':', 2) is not [{ Length: > 0 } name, var password])
            throw new BadSettingException("'first' takes the name and password of the first coordinator, as NAME:PASSWORD.");
        if (Passwords.Against(password, name) is { } problem) throw new BadSettingException($"'first': {problem.Message}");
        await desk.PutAsync(db, name, new(name, Roles.Coordinator, password, []), cancel, Doer.System);
    }

    [LoggerMessage(
        LogLevel.Warning,
        "'{Secret}' was given as an option, which everybody on this computer can read; use '{Secret}-file', or YARD_{Variable}")]
    private static partial void InProcessList(ILogger log, string secret, string variable);

    [LoggerMessage(LogLevel.Warning, "Others on this computer can look into the built-in depot '{Folder}': {Why}")]
    private static partial void DepotStandsOpen(ILogger log, string folder, string why);

    [LoggerMessage(LogLevel.Warning, "The clock is a practised one: {Ahead} ahead of the computer's, now {Now}")]
    private static partial void Practises(ILogger log, TimeSpan ahead, DateTimeOffset now);
}

/// <summary>Ready when the database answers.</summary>
internal sealed class RecordsCheck(IDbContextFactory<YardDb> records) : IHealthCheck
{
    public async Task<HealthCheckResult> CheckHealthAsync(HealthCheckContext context, CancellationToken cancellationToken = default)
    {
        await using var db = await records.CreateDbContextAsync(cancellationToken);
        return await db.Database.CanConnectAsync(cancellationToken)
            ? HealthCheckResult.Healthy()
            : HealthCheckResult.Unhealthy("The database does not answer.");
    }
}
