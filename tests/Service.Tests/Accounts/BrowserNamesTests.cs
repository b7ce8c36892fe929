using YardRelay.Service.Accounts;

namespace YardRelay.Service.Tests;

public sealed class BrowserNamesTests
{
    [Theory]
    [InlineData("Mozilla/5.0 (Windows NT 10.0) AppleWebKit/537 (KHTML, like Gecko) Chrome/140 Safari/537 Edg/140", "Edge on Windows")]
    [InlineData("Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537 (KHTML, like Gecko) Chrome/140 Safari/537", "Chromium or Chrome on Linux")]
    [InlineData("Mozilla/5.0 (iPhone; CPU iPhone OS 18_0 like Mac OS X) Version/18.0 Mobile Safari/604", "Safari on iPhone or iPad")]
    [InlineData("Mozilla/5.0 (Android 16; Mobile) Gecko/140 Firefox/140", "Firefox on Android")]
    [InlineData("Safari", "Safari")]
    [InlineData("TestBrowser/1.0", "TestBrowser/1.0")]
    public void A_browser_is_called_as_people_call_it_once_and_again(string said, string name)
    {
        BrowserNames.Of(said).ShouldBe(name);
        BrowserNames.Of(name).ShouldBe(name);
    }
}
