using Spectre.Console;
using YardRelay.Core;

namespace YardRelay.Line.Shown;

/// <summary>
/// Where a run of the command line stands: what it writes to and reads from, and its environment. The process's own, unless the run is
/// given
/// another: then many can run in one process, each for itself.
/// </summary>
/// <param name="Variable">A variable of the environment by its name; null: it is not set.</param>
internal sealed record Surroundings(
    TextWriter Out, TextWriter Error, Stream In, bool OutIsTerminal, bool ErrorIsTerminal, bool InIsTerminal,
    Func<string, string?> Variable)
{
    // Wide enough that nothing is cut where no terminal sets a width.
    private const int WidthOfNoTerminal = 4000;
    private static readonly AsyncLocal<Surroundings?> Given = new();

    private static readonly Lazy<Surroundings> Own = new(() => new(
        Console.IsOutputRedirected ? Console.Out : Visible.On(Console.Out), Visible.On(Console.Error), Console.OpenStandardInput(),
        !Console.IsOutputRedirected, !Console.IsErrorRedirected, !Console.IsInputRedirected, Environment.GetEnvironmentVariable));

    // What is drawn moves the cursor itself; the texts in it are made visible one by one.
    private readonly Lazy<IAnsiConsole> _tables = new(() => Draw(OutIsTerminal ? Console.Out : Out, OutIsTerminal));

    /// <summary>Of the run that is under way here.</summary>
    public static Surroundings Here => Given.Value ?? Own.Value;

    /// <summary>The clock that times on the output are read from.</summary>
    public WallClock Clock { get; } = new();

    /// <summary>Draws tables on the output.</summary>
    public IAnsiConsole Tables => _tables.Value;

    /// <summary>The first line of the input, for what must not stand on a command line; null: there is none.</summary>
    public string? ReadLine()
    {
        using var reader = new StreamReader(In, leaveOpen: true);
        return reader.ReadLine();
    }

    /// <summary>Tables are drawn as wide as they are, whatever the terminal's width.</summary>
    public bool IsWide { get; set; }

    /// <summary>The words of the input, apart by blanks, commas or lines.</summary>
    /// <param name="most">No more are read.</param>
    public IEnumerable<string> ReadWords(int most)
    {
        using var reader = new StreamReader(In, leaveOpen: true);
        var read = 0;
        while (reader.ReadLine() is { } line)
            foreach (var word in line.Split([' ', '\t', ','], StringSplitOptions.RemoveEmptyEntries))
            {
                if (read++ == most) yield break;
                yield return word;
            }
    }

    /// <summary>Does something in these surroundings.</summary>
    public async Task<T> RunAsync<T>(Func<Task<T>> work)
    {
        // What is set within an asynchronous method is seen by what it calls, and by nobody after it.
        Given.Value = this;
        return await work();
    }

    /// <summary>A drawing surface on a stream of text.</summary>
    public static IAnsiConsole Draw(TextWriter to, bool isTerminal)
    {
        var console = AnsiConsole.Create(new()
        {
            Out = new AnsiConsoleOutput(to),
            Ansi = isTerminal ? AnsiSupport.Detect : AnsiSupport.No,
            ColorSystem = isTerminal ? ColorSystemSupport.Detect : ColorSystemSupport.NoColors
        });
        if (!isTerminal) console.Profile.Width = WidthOfNoTerminal;
        return console;
    }
}
