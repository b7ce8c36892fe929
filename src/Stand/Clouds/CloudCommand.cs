using System.CommandLine;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Hosting.Server.Features;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Hosting;
using Microsoft.Extensions.Logging;
using YardRelay.Dav;

namespace YardRelay.Stand.Clouds;

/// <summary><c>yardstand cloud</c>: a simulated cloud share.</summary>
internal static class CloudCommand
{
    public static Command Create()
    {
        var folder = new Option<string>("--folder") { Description = "Folder that holds the share.", Required = true };
        var port = new Option<int>("--port")
        {
            Description = "Port on 127.0.0.1; 0 takes a free one and prints it.",
            DefaultValueFactory = _ => 0
        };
        var quota = new Option<long?>("--quota-bytes") { Description = "Most bytes the share holds; a file too many is answered 507." };
        var user = new Option<string?>("--user") { Description = "Ask for this name; the password is in YARD_CLOUD_PASSWORD." };
        var delay = new Option<int>("--delay-ms") { Description = "Wait so long before each answer." };
        var fail = new Option<int>("--fail-every") { Description = "Answer every n-th request with 503, but none twice in a row." };
        var faults = new Option<double>("--fault-rate")
        {
            Description =
                "Part of the requests, 0 to 1, that are refused with Retry-After, dropped, done without a reply, or answered by half, by "
                    + "a seeded plan."
        };
        var seed = new Option<int>("--fault-seed") { Description = "Seed of that plan.", DefaultValueFactory = _ => 1 };
        var command = new Command(
            "cloud",
            "Serves a folder as a cloud share: WebDAV class 1 and 2, with quota.\n\nExample:\n  yardstand cloud --folder /tmp/cloud "
                + "--port 8421 --quota-bytes 5000000000")
            {
                folder,
                port,
                quota,
                user,
                delay,
                fail,
                faults,
                seed
            };
        command.SetAction(async (args, cancel) =>
        {
            var builder = WebApplication.CreateSlimBuilder();
            builder.Logging.ClearProviders();
            builder.WebHost.ConfigureKestrel(kestrel =>
            {
                kestrel.Limits.MaxRequestBodySize = null;
                kestrel.Limits.MinRequestBodyDataRate = null;
                kestrel.Listen(System.Net.IPAddress.Loopback, args.GetValue(port));
            });
            await using var app = builder.Build();
            using var share = new DavShare(new()
            {
                Folder = args.GetValue(folder)!,
                QuotaBytes = args.GetValue(quota),
                User = args.GetValue(user),
                Password = Environment.GetEnvironmentVariable("YARD_CLOUD_PASSWORD") ?? "",
                Delay = TimeSpan.FromMilliseconds(args.GetValue(delay)),
                FailEvery = args.GetValue(fail),
                FaultRate = args.GetValue(faults),
                FaultSeed = args.GetValue(seed),
            }, TimeProvider.System);
            app.Run(share.HandleAsync);
            try
            {
                await app.StartAsync(cancel);
            }
            catch (IOException taken)
            {
                Console.Error.WriteLine($"The cloud share could not start: {taken.Message} Choose another --port.");
                return 3;
            }
            var address = app.Services.GetRequiredService<IServer>().Features.Get<IServerAddressesFeature>()!.Addresses.First();
            Console.Out.WriteLine($"cloud share at {address}/");
            await ((IHost)app).WaitForShutdownAsync(cancel);
            return 0;
        });
        return command;
    }
}
