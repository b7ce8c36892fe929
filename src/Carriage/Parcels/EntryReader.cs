using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Digests;

namespace YardRelay.Carriage.Parcels;

/// <summary>The entries of one file, one after the other, with a look ahead.</summary>
internal sealed class EntryReader : IDisposable
{
    private readonly LineReader? _lines;
    private readonly Action<string>? _damaged;

    private EntryReader(LineReader? lines, Action<string>? damaged) => (_lines, _damaged) = (lines, damaged);

    /// <summary>The entry at hand; null at the end.</summary>
    public Entry? Current { get; private set; }

    /// <summary>Its line as it stands in the file, without the end of line.</summary>
    public ReadOnlyMemory<byte> Line { get; private set; }

    /// <summary>Opens a file of entries; one that is missing has none.</summary>
    /// <param name="damaged">Told what is wrong with a line that is no entry; null: such a line is passed over.</param>
    /// <param name="hashed">Given what digests the file as it is stored, while it is read.</param>
    public static async Task<EntryReader> OpenAsync(
        IDepot depot, ParcelPaths paths, string below, Action<string>? damaged, CancellationToken cancel,
        Action<HashedStream>? hashed = null)
    {
        var opened = await ParcelLists.OpenAsync(depot, paths, below, cancel, hashed);
        var reader = new EntryReader(opened is null ? null : new(opened), damaged);
        await reader.NextAsync(cancel);
        return reader;
    }

    /// <summary>Reads a list that lies on this computer; closes it.</summary>
    /// <param name="damaged">Told what is wrong with a line that is no entry; null: such a line is passed over.</param>
    public static async Task<EntryReader> OfAsync(Stream list, Action<string>? damaged, CancellationToken cancel)
    {
        var reader = new EntryReader(new(list), damaged);
        await reader.NextAsync(cancel);
        return reader;
    }

    /// <summary>Goes to the next entry.</summary>
    public async ValueTask NextAsync(CancellationToken cancel)
    {
        while (_lines is not null && await _lines.NextAsync(cancel) is { } line)
        {
            if (line.IsEmpty) continue;
            if (Entry.TryParse(line.Span) is { } entry)
            {
                (Current, Line) = (entry, line);
                return;
            }
            _damaged?.Invoke(System.Text.Encoding.UTF8.GetString(line.Span[..Math.Min(200, line.Length)]));
        }
        Current = null;
    }

    public void Dispose() => _lines?.Dispose();
}
