using System.Globalization;

namespace YardRelay.Files.Names;

/// <summary>
/// What names need of Unicode, from <c>unicode.txt</c>, which <c>scripts/unicode-names.py</c> makes of Unicode's own files. Read when it
/// is first asked for: nearly all names are ASCII.
/// </summary>
internal sealed class UnicodeTables
{
    // How syllables of Hangul are made of their letters: Unicode Standard, section 3.12.
    private const int Syllables = 0xAC00, SyllablesEnd = 0xD7A3, Leads = 0x1100, Vowels = 0x1161, Tails = 0x11A7;
    private const int VowelCount = 21, TailCount = 28;

    private static readonly Lazy<UnicodeTables> Read = new(() => new());

    private readonly Dictionary<int, int[]> _parts = [], _folds = [];
    private readonly Dictionary<int, int> _classes = [];
    private readonly HashSet<int> _joins = [];
    private readonly List<(int From, int To)> _ignored = [];

    private UnicodeTables()
    {
        using var text = new StreamReader(
            typeof(UnicodeTables).Assembly.GetManifestResourceStream("YardRelay.Files.unicode.txt")
                ?? throw new InvalidOperationException("The program was built without its table of Unicode."));
        while (text.ReadLine() is { } line)
            if (line is not ['#', ..]) Take(line[0], [.. line[2..].Split(' ').Select(n => int.Parse(n, NumberStyles.HexNumber, null))]);
    }

    /// <summary>The tables.</summary>
    public static UnicodeTables Here => Read.Value;

    private void Take(char kind, int[] numbers)
    {
        switch (kind)
        {
            case 'd': _parts[numbers[0]] = numbers[1..]; break;
            case 'f': _folds[numbers[0]] = numbers[1..]; break;
            case 'u': _joins.Add(numbers[0]); break;
            case 'i': _ignored.Add((numbers[0], numbers[1])); break;
            default:
                for (var one = numbers[0]; one <= numbers[1]; one++) _classes[one] = numbers[2];
                break;
        }
    }

    /// <summary>What a character is made of, whole (form NFD); null: it is made of nothing else.</summary>
    public int[]? PartsOf(int one)
    {
        if (one is < Syllables or > SyllablesEnd) return _parts.GetValueOrDefault(one);
        var at = one - Syllables;
        var (lead, vowel, tail) = (at / (VowelCount * TailCount), at / TailCount % VowelCount, at % TailCount);
        return tail == 0 ? [Leads + lead, Vowels + vowel] : [Leads + lead, Vowels + vowel, Tails + tail];
    }

    /// <summary>What a character that is made of nothing else is where case does not count; null: itself.</summary>
    public int[]? FoldOf(int one) => _folds.GetValueOrDefault(one);

    /// <summary>Its combining class; 0: it stands by itself.</summary>
    public int ClassOf(int one) => _classes.GetValueOrDefault(one);

    /// <summary>Whether a disk may take it for nothing.</summary>
    public bool IsIgnored(int one) => _ignored.Exists(i => i.From <= one && one <= i.To);

    /// <summary>Whether it may become another, or one with its neighbour, where a disk has a form of its own.</summary>
    public bool MayChange(int one) =>
        ClassOf(one) != 0
        || PartsOf(one) is not null
        || _joins.Contains(one)
        || one is (>= Vowels and < Vowels + VowelCount) or (> Tails and < Tails + TailCount);
}
