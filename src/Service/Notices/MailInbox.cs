using System.Buffers;
using SmtpServer;
using SmtpServer.Mail;
using SmtpServer.Protocol;
using SmtpServer.Storage;
using Answer = SmtpServer.Protocol.SmtpResponse;

namespace YardRelay.Service.Notices;

/// <summary>
/// Where the organisation's mail server hands over what comes back to the sender's address: delivery reports and people's answers. Takes
/// nothing for anybody else, and sends nothing on.
/// </summary>
internal sealed class MailInbox(ServiceOptions options, ReceivedMail received, ILogger<MailInbox> log) : BackgroundService
{
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        if (options.Mail?.Inbox is not { } at) return;
        var server = new SmtpServerOptionsBuilder()
            .ServerName("yard-relay")
            .MaxMessageSize(ReceivedMail.MostBytes, MaxMessageSizeHandling.Strict)
            .Endpoint(e => e.Endpoint(at)).Build();
        var services = new SmtpServer.ComponentModel.ServiceProvider();
        services.Add(new OwnBox(options.Mail.From));
        services.Add(new Store(received, log));
        await new SmtpServer.SmtpServer(server, services).StartAsync(stoppingToken);
    }

    private sealed class OwnBox(string own) : MailboxFilter
    {
        public override Task<bool> CanAcceptFromAsync(
            ISessionContext context, IMailbox from, int size, CancellationToken cancellationToken) =>
            Task.FromResult(size <= ReceivedMail.MostBytes);

        public override Task<bool> CanDeliverToAsync(
            ISessionContext context, IMailbox to, IMailbox from, CancellationToken cancellationToken) =>
            Task.FromResult(string.Equals(to.AsAddress(), own, StringComparison.OrdinalIgnoreCase));
    }

    private sealed class Store(ReceivedMail received, ILogger log) : MessageStore
    {
        public override async Task<Answer> SaveAsync(
            ISessionContext context, IMessageTransaction transaction, ReadOnlySequence<byte> buffer, CancellationToken cancellationToken)
        {
            using var mail = new MemoryStream(buffer.ToArray());
            try
            {
                var taken = await received.TakeAsync(mail, null, cancellationToken);
                if (taken.IsOk) return Answer.Ok;
                log.LogInformation("A mail that came back was not taken: {Why}", taken.Problem.Message);
                // It is said to whoever hands it over, and not tried again.
                return new(SmtpReplyCode.TransactionFailed, taken.Problem.Code);
            }
            catch (Exception broke) when (broke is not OperationCanceledException)
            {
                log.LogError(broke, "A mail that came back could not be looked at; the mail server is asked to bring it again");
                return new(SmtpReplyCode.Aborted, "come back later");
            }
        }
    }
}
