using System.Text.Json.Nodes;
using YardRelay.Peers;

namespace YardRelay.EndToEnd;

/// <summary>A running service for all facts of a class; each has a refresh of its own.</summary>
public sealed class ServedYard : IAsyncLifetime
{
    private int _refreshes;

    internal Yard Yard { get; } = new();

    public async ValueTask InitializeAsync() => await Yard.StartServiceAsync();

    /// <summary>Makes a refresh of the week from 7 December 2026 and goes on in it.</summary>
    internal string NewRefresh()
    {
        var key = $"spring{Interlocked.Increment(ref _refreshes)}";
        Yard.Line("sign-in", Yard.Address, "--name", "kit", "--refresh", key);
        Yard.Line("refresh", "make", key, "--name", "Spring", "--starts", "2026-12-07", "--days", "5", "--zone", "Europe/London");
        return key;
    }

    public ValueTask DisposeAsync()
    {
        Yard.Dispose();
        return ValueTask.CompletedTask;
    }
}

/// <summary>What facts about the command line share: a refresh of its own for each, and ways to read what comes back.</summary>
public abstract class ByCommandLine
{
    private readonly Yard _yard;
    private readonly string _refresh;

    protected ByCommandLine(ServedYard served) => (_yard, _refresh) = (served.Yard, served.NewRefresh());

    protected string Address => _yard.Address;

    protected TempFolder Folder => _yard.Folder;

    protected string Swap(int number) => $"{_refresh}-{number:0000}";

    protected Ran Try(params string[] args) => _yard.TryLine(args);

    /// <summary>What a command that ends well prints, read as running text: a table breaks its cells to fit.</summary>
    protected string Line(params string[] args) => Flat(_yard.Line(args));

    /// <summary>As it is printed.</summary>
    protected string Printed(params string[] args) => _yard.Line(args);

    /// <summary>What a command says that is refused.</summary>
    protected string Refused(params string[] args)
    {
        var ran = _yard.TryLine(args);
        ran.Exit.ShouldNotBe(0, ran.All);
        return Flat(ran.Err);
    }

    protected JsonNode Json(params string[] args) => JsonNode.Parse(_yard.Line([.. args, "--json"]))!;

    /// <summary>Writes a file and says where it lies.</summary>
    protected string FileOf(string name, string text)
    {
        File.WriteAllText(Folder[name], text);
        return Folder[name];
    }

    /// <summary>Sets technicians who serve the sites that are named after each.</summary>
    protected void Technicians(params (string Key, string Name, string Site)[] all)
    {
        foreach (var (key, name, site) in all)
            Line("technician", "set", key, "--name", name, "--site", site, "--shift", "08:00-12:00", "12:45-16:30");
    }

    private static string Flat(string text) =>
        string.Join(' ', text.Split([' ', '\n', '│', '─', '|'], StringSplitOptions.RemoveEmptyEntries));
}
