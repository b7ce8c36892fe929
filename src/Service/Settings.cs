using Microsoft.Extensions.Configuration.EnvironmentVariables;

namespace YardRelay.Service;

/// <summary>
/// What the service is told by name: as an option (<c>--name value</c>), in the environment (<c>YARD_NAME</c>), or in a file that
/// <c>NAME-file</c> names, <c>-</c> for the first line of standard input.
/// </summary>
internal sealed class Settings(IConfigurationRoot configuration)
{
    /// <summary>What nobody else should read; an option stands in the computer's list of processes.</summary>
    private static readonly string[] Secrets = ["first", "mail-password", "organisation-secret"];

    /// <summary>What is said under a name; null: nothing.</summary>
    /// <exception cref="BadSettingException">A file is named that cannot be read.</exception>
    public string? this[string name] =>
        Said(name) is { Length: > 0 } said ? said
        : Said(name + "-file") is { Length: > 0 } file ? FromFile(name, file)
        : null;

    /// <summary>The secrets among the options of a command.</summary>
    public static IReadOnlyList<string> SecretsIn(IReadOnlyList<string> options) =>
        [.. Secrets.Where(s => options.Any(o =>
            o.TrimStart('-', '/').Split('=')[0].Equals(s, StringComparison.OrdinalIgnoreCase) && o[0] is '-' or '/'))];

    private string? Said(string name) =>
        Given(name) ?? Environment.GetEnvironmentVariable("YARD_" + name.Replace('-', '_').ToUpperInvariant());

    // Variables of the environment without YARD_ are others': MAIL is where a login shell finds somebody's post.
    private string? Given(string name) => configuration.Providers.Reverse()
        .Where(p => p is not EnvironmentVariablesConfigurationProvider)
        .Select(p => p.TryGet(name, out var value) ? value : null)
        .FirstOrDefault(v => v is not null);

    private static string FromFile(string name, string file)
    {
        try
        {
            return (file == "-" ? Console.In.ReadLine() ?? "" : File.ReadAllText(file)).TrimEnd('\r', '\n');
        }
        catch (Exception gone) when (gone is IOException or UnauthorizedAccessException)
        {
            throw new BadSettingException($"'{name}-file' names '{file}', which cannot be read: {gone.Message}");
        }
    }
}

/// <summary>The service was told something that it cannot go by; the message says what to write instead.</summary>
internal sealed class BadSettingException(string message) : Exception(message);
