namespace YardRelay.Service.Accounts;

/// <summary>Browsers as people call them, from what they say of themselves (<c>User-Agent</c>).</summary>
internal static class BrowserNames
{
    // Each says the names of those before it, too: the first that is found is it.
    private static readonly (string Said, string Name)[] Browsers =
        [("Edg", "Edge"), ("Firefox", "Firefox"), ("Chrom", "Chromium or Chrome"), ("Safari", "Safari")];

    private static readonly (string Said, string Name)[] Systems =
    [
        ("Android", "Android"), ("iPhone", "iPhone or iPad"), ("iPad", "iPhone or iPad"), ("Windows", "Windows"), ("Mac OS", "macOS"),
        ("Linux", "Linux")
    ];

    /// <summary>The browser, and on what it runs; the text itself where neither is known.</summary>
    public static string Of(string userAgent) => (In(userAgent, Browsers), In(userAgent, Systems)) switch
    {
        (null, _) => userAgent,
        (var browser, null) => browser,
        var (browser, system) => $"{browser} on {system}",
    };

    /// <summary>What the browser that asks says of itself.</summary>
    public static string In(HttpContext context) =>
        context.Request.Headers.UserAgent.ToString() is { Length: > 0 } said ? Of(said) : "a browser that does not say";

    private static string? In(string text, (string Said, string Name)[] known) =>
        known.FirstOrDefault(k => text.Contains(k.Said, StringComparison.OrdinalIgnoreCase)).Name;
}
