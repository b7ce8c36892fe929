using System.Text.Json;
using Npgsql;

namespace YardRelay.Service.Live;

/// <summary>Carries wakes between service processes on one PostgreSQL by LISTEN and NOTIFY.</summary>
internal sealed class PostgresWakeUps(EventHub hub, string connection, ILogger<PostgresWakeUps> log) : BackgroundService
{
    private readonly string _self = Guid.NewGuid().ToString("N");
    private NpgsqlDataSource? _source;

    private sealed record Note(string From, string Refresh, string? Progress, string? Tag, string? Site);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        _source = NpgsqlDataSource.Create(connection);
        hub.PassOn = PassOnAsync;
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                await using var listening = await _source.OpenConnectionAsync(stoppingToken);
                listening.Notification += (_, said) =>
                {
                    if (JsonSerializer.Deserialize<Note>(said.Payload) is { } note && note.From != _self)
                        hub.Deliver(new(note.Refresh, note.Progress, note.Tag, note.Site));
                };
                await using (var command = new NpgsqlCommand("LISTEN yard", listening)) await command.ExecuteNonQueryAsync(stoppingToken);
                while (!stoppingToken.IsCancellationRequested) await listening.WaitAsync(stoppingToken);
            }
            catch (Exception broke) when (broke is NpgsqlException or IOException or TimeoutException)
            {
                log.LogWarning("Wake-ups from other processes are interrupted: {Why}. Trying again.", broke.Message);
                await Task.Delay(TimeSpan.FromSeconds(2), stoppingToken);
            }
        }
    }

    private async Task PassOnAsync(Wake wake)
    {
        try
        {
            await using var command = _source!.CreateCommand("SELECT pg_notify('yard', $1)");
            command.Parameters.AddWithValue(JsonSerializer.Serialize(new Note(_self, wake.Refresh, wake.Progress, wake.Tag, wake.Site)));
            await command.ExecuteNonQueryAsync();
        }
        catch (NpgsqlException broke)
        {
            // The other processes read the ledger anyway, a few seconds later.
            log.LogWarning("A wake-up was not passed on: {Why}", broke.Message);
        }
    }

    public override void Dispose()
    {
        _source?.Dispose();
        base.Dispose();
    }
}
