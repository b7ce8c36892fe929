using Microsoft.Playwright;

namespace YardRelay.EndToEnd;

/// <summary>Debian's Chromium without a screen, quiet towards the outside.</summary>
internal static class Browsers
{
    /// <summary>How long a page may take until it shows what it must, also on a machine that is busy.</summary>
    private const int Patience = 30_000;

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
