using Microsoft.Playwright;

namespace YardRelay.EndToEnd;

/// <summary>Debian's Chromium without a screen, quiet towards the outside.</summary>
internal static class Browsers
{
    public static Task<IBrowser> LaunchAsync(IPlaywright playwright, params string[] more) => playwright.Chromium.LaunchAsync(new()
    {
        ExecutablePath = "/usr/bin/chromium",
        Args = [
            "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking",
            "--disable-component-update", "--disable-sync", .. more
        ],
    });
}
