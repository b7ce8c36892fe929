using System.Buffers;
using System.CommandLine;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using SmtpServer;
using SmtpServer.Mail;
using SmtpServer.Protocol;
using SmtpServer.Storage;
using Answer = SmtpServer.Protocol.SmtpResponse;

namespace YardRelay.Stand.Mail;

/// <summary><c>yardstand mail</c>: a simulated mail server that keeps what comes as files, and delivers nothing.</summary>
internal static class MailCommand
{
    public static Command Create()
    {
        var folder = new Option<string>("--folder") { Description = "Folder that each mail goes into, as an .eml file.", Required = true };
        var port = new Option<int>("--port") { Description = "Port on 127.0.0.1.", Required = true };
        var tls = new Option<bool>("--starttls")
        {
            Description = "Offers STARTTLS with a certificate of its own making, which is kept beside the mails as server.pem."
        };
        var refuse = new Option<string[]>("--refuse") { Description = "An address that does not exist here (550); repeat for more." };
        var busy = new Option<int>("--busy") { Description = "Answers the first so many mails with 451: come back later." };
        var command = new Command(
            "mail",
            "Takes mail over SMTP and keeps it as files; nothing is delivered.\n\nExample:\n  yardstand mail --folder /tmp/mail --port "
                + "8425 --refuse gone@kestrelbay.example")
            {
                folder,
                port,
                tls,
                refuse,
                busy
            };
        command.SetAction(async (args, cancel) =>
        {
            Directory.CreateDirectory(args.GetValue(folder)!);
            using var certificate = args.GetValue(tls) ? OwnCertificate() : null;
            if (certificate is not null)
                await File.WriteAllTextAsync(
                    Path.Combine(args.GetValue(folder)!, "server.pem"), certificate.ExportCertificatePem(), cancel);
            var options = new SmtpServerOptionsBuilder().ServerName("localhost").Endpoint(endpoint =>
            {
                endpoint.Endpoint(new(System.Net.IPAddress.Loopback, args.GetValue(port)));
                if (certificate is not null) endpoint.Certificate(certificate);
            }).Build();
            var services = new SmtpServer.ComponentModel.ServiceProvider();
            services.Add(new FileStore(args.GetValue(folder)!, args.GetValue(busy)));
            services.Add(new Boxes([.. args.GetValue(refuse) ?? []]));
            Console.Out.WriteLine($"mail at 127.0.0.1:{args.GetValue(port)}");
            await new SmtpServer.SmtpServer(options, services).StartAsync(cancel);
            return 0;
        });
        return command;
    }

    private static X509Certificate2 OwnCertificate()
    {
        using var key = RSA.Create(2048);
        var request = new CertificateRequest("CN=localhost", key, HashAlgorithmName.SHA256, RSASignaturePadding.Pkcs1);
        var names = new SubjectAlternativeNameBuilder();
        names.AddIpAddress(System.Net.IPAddress.Loopback);
        names.AddDnsName("localhost");
        request.CertificateExtensions.Add(names.Build());
        using var made = request.CreateSelfSigned(DateTimeOffset.UtcNow.AddDays(-1), DateTimeOffset.UtcNow.AddYears(1));
        return X509CertificateLoader.LoadPkcs12(made.Export(X509ContentType.Pkcs12), null);
    }

    private sealed class FileStore(string folder, int busy) : MessageStore
    {
        private int _busy = busy;
        private int _number;

        public override async Task<Answer> SaveAsync(
            ISessionContext context, IMessageTransaction transaction, ReadOnlySequence<byte> buffer, CancellationToken cancellationToken)
        {
            if (Interlocked.Decrement(ref _busy) >= 0) return new(SmtpReplyCode.Aborted, "come back later");
            var whom = transaction.To[0].AsAddress().Select(c => char.IsLetterOrDigit(c) || c is '.' or '@' or '-' ? c : '_');
            var name = $"{DateTime.UtcNow:yyyyMMdd-HHmmss}-{Interlocked.Increment(ref _number):0000}-{string.Concat(whom)}.eml";
            var aside = Path.Combine(folder, name + ".part");
            await File.WriteAllBytesAsync(aside, buffer.ToArray(), cancellationToken);
            File.Move(aside, Path.Combine(folder, name));
            return Answer.Ok;
        }
    }

    private sealed class Boxes(IReadOnlyCollection<string> gone) : MailboxFilter
    {
        public override Task<bool> CanAcceptFromAsync(
            ISessionContext context, IMailbox from, int size, CancellationToken cancellationToken) => Task.FromResult(true);

        public override Task<bool> CanDeliverToAsync(
            ISessionContext context, IMailbox to, IMailbox from, CancellationToken cancellationToken) =>
            Task.FromResult(!gone.Contains(to.AsAddress(), StringComparer.OrdinalIgnoreCase));
    }
}
