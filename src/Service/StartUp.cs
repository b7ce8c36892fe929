using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Diagnostics.HealthChecks;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Clocks;

namespace YardRelay.Service;

/// <summary>What must be done before the first request.</summary>
internal static partial class StartUp
{
    public static async Task PrepareAsync(IServiceProvider services, ServiceOptions options, CancellationToken cancel)
    {
        var records = services.GetRequiredService<IDbContextFactory<YardDb>>();
        await using var db = await records.CreateDbContextAsync(cancel);
        await Schema.PrepareAsync(db, cancel);
        if (services.GetRequiredService<TimeProvider>() is PractisedClock practised)
            Practises(services.GetRequiredService<ILogger<PractisedClock>>(), practised.Ahead, practised.GetUtcNow());
        if (options.FirstAccount is { } first && first.Split(':', 2) is [var name, var password] && !await db.Accounts.AnyAsync(cancel))
            await AccountDesk.PutAsync(
                db, services.GetRequiredService<Passwords>(), name, new(name, Roles.Coordinator, password, []), cancel);
    }

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
