using Microsoft.Playwright;

[assembly: AssemblyFixture(typeof(YardRelay.EndToEnd.Chromium))]

namespace YardRelay.EndToEnd;

/// <summary>Debian's Chromium without a screen, quiet towards the outside.</summary>
internal static class Browsers
{
    /// <summary>How long a page may take until it shows what it must, also on a machine that is busy.</summary>
    public const int Patience = 120_000;

    static Browsers() => Assertions.SetDefaultExpectTimeout(Patience);

    public static Task<IBrowser> LaunchAsync(IPlaywright playwright, params string[] more) => playwright.Chromium.LaunchAsync(new()
    {
        ExecutablePath = "/usr/bin/chromium",
        Args = [
            "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking",
            "--disable-component-update", "--disable-sync", .. more
        ],
    });
}

/// <summary>One browser for all tests; what each keeps (cookies, storage, what waits to be sent) lies in its own context.</summary>
public sealed class Chromium : IAsyncLifetime
{
    public IPlaywright Playwright { get; private set; } = null!;

    public IBrowser Browser { get; private set; } = null!;

    public async ValueTask InitializeAsync()
    {
        Playwright = await Microsoft.Playwright.Playwright.CreateAsync();
        Browser = await Browsers.LaunchAsync(Playwright);
    }

    public async ValueTask DisposeAsync()
    {
        await Browser.DisposeAsync();
        Playwright.Dispose();
    }
}

/// <summary>The contexts that a test opens, closed with it: a page that stays open goes on asking.</summary>
internal sealed class Contexts(Chromium chromium) : IAsyncDisposable
{
    private readonly List<IBrowserContext> _open = [];

    public async Task<IBrowserContext> OpenAsync(BrowserNewContextOptions options)
    {
        var context = await chromium.Browser.NewContextAsync(options);
        _open.Add(context);
        return context;
    }

    public async ValueTask DisposeAsync()
    {
        foreach (var context in _open) await context.CloseAsync();
    }
}
