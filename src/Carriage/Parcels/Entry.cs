using System.Buffers;
using System.Text.Json;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Names;

namespace YardRelay.Carriage.Parcels;

internal enum EntryKind
{
    File,
    Folder,
    Link,
}

/// <summary>
/// One line of <c>yard/entries.jsonl</c>: all of a name that BagIt has no place for. Written and read as <c>docs/formats.md</c> says.
/// </summary>
internal sealed record Entry
{
    private static readonly JsonWriterOptions Compact = new()
    {
        Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
        SkipValidation = true
    };

    private static readonly System.Buffers.SearchValues<char> HexDigits = System.Buffers.SearchValues.Create("0123456789abcdef");

    /// <summary>Path in the depot below <c>data/</c>; the root folder is the empty path.</summary>
    public required DepotPath Path { get; init; }

    /// <summary>The true path where it differs from <see cref="Path"/>.</summary>
    public byte[]? Raw { get; init; }

    public required EntryKind Kind { get; init; }

    /// <summary>Twelve mode bits.</summary>
    public required ushort Mode { get; init; }

    public required Stamp Modified { get; init; }

    /// <summary>When the system last changed anything of it; null when that was too close to the reading to be trusted.</summary>
    public Stamp? Changed { get; init; }

    public ulong Inode { get; init; }

    public long Bytes { get; init; }

    public string? Sha256 { get; init; }

    /// <summary>To whom it belonged, by numbers; only where it has rights that belong to an owner.</summary>
    public NodeOwner? Owner { get; init; }

    /// <summary>Target of a link.</summary>
    public byte[]? Target { get; init; }

    /// <summary>Path of the first name of the same file, for the others of a hard-link group.</summary>
    public string? SameAs { get; init; }

    public SortedDictionary<string, byte[]>? Attributes { get; init; }

    /// <summary>Stretches of data of a sparse file.</summary>
    public IReadOnlyList<(long Offset, long Bytes)>? Data { get; init; }

    /// <summary>In a sealed parcel: where its content lies.</summary>
    public IReadOnlyList<PackPiece>? Packs { get; init; }

    /// <summary>Taken in from a copy that somebody made by hand: content and name are known, times and modes are not.</summary>
    public bool Adopted { get; init; }

    /// <summary>The trip that found it deleted at the source.</summary>
    public int? GoneSince { get; init; }

    /// <summary>What the depot has of it does not look like it; not part of the line.</summary>
    public bool InDoubt { get; init; }

    /// <summary>It lies in the depot, and no list names it; not part of the line.</summary>
    public bool Unlisted { get; init; }

    /// <summary>Why its attributes could not be read; not part of the line, so the next trip looks again.</summary>
    public string? Undressed { get; init; }

    /// <summary>Where the line stands among all lines.</summary>
    public string Key => Kind == EntryKind.Folder && !Path.IsRoot ? Path.Text + "/" : Path.Text;

    /// <summary>The true path.</summary>
    public byte[] RawPath => Raw ?? System.Text.Encoding.UTF8.GetBytes(Path.Text);

    /// <summary>The true path for people.</summary>
    public string Shown => Raw is null && PercentText.IsPlain(Path.Text) ? Path.Text : PercentText.Encode(RawPath);

    // One for each thread: lines are short, and there are many.
    [ThreadStatic]
    private static Utf8JsonWriter? _writer;

    public void Write(IBufferWriter<byte> into)
    {
        var json = _writer ??= new(into, Compact);
        json.Reset(into);
        Span<byte> stamp = stackalloc byte[Stamp.MostBytes];
        json.WriteStartObject();
        json.WriteString("path", Path.Text);
        if (Raw is not null) json.WriteString("name", PercentText.Encode(Raw));
        json.WriteString("kind", Kind switch { EntryKind.File => "file", EntryKind.Folder => "folder", _ => "link" });
        WriteMode(json);
        json.WriteString("modified", stamp[..Modified.Write(stamp)]);
        if (Changed is { } changed) json.WriteString("changed", stamp[..changed.Write(stamp)]);
        if (Inode != 0) json.WriteNumber("inode", Inode);
        if (Kind == EntryKind.File) json.WriteNumber("bytes", Bytes);
        if (Sha256 is not null) json.WriteString("sha256", Sha256);
        if (Owner is { } owner) json.WriteString("owner", FormattableString.Invariant($"{owner.User}:{owner.Group}"));
        if (Target is not null) json.WriteString("target", PercentText.Encode(Target));
        if (SameAs is not null) json.WriteString("sameAs", SameAs);
        if (Attributes is not null)
        {
            json.WriteStartObject("attributes");
            foreach (var (name, value) in Attributes) json.WriteBase64String(name, value);
            json.WriteEndObject();
        }
        if (Data is not null)
        {
            json.WriteStartArray("data");
            foreach (var (offset, bytes) in Data)
            {
                json.WriteNumberValue(offset);
                json.WriteNumberValue(bytes);
            }
            json.WriteEndArray();
        }
        if (Packs is not null)
        {
            json.WriteStartArray("packs");
            foreach (var piece in Packs)
            {
                json.WriteNumberValue(piece.Pack);
                json.WriteNumberValue(piece.At);
                json.WriteNumberValue(piece.Bytes);
            }
            json.WriteEndArray();
        }
        if (Adopted) json.WriteBoolean("adopted", true);
        if (GoneSince is { } trip) json.WriteNumber("goneSince", trip);
        json.WriteEndObject();
        json.Flush();
        into.Write("\n"u8);
    }

    // Four octal digits.
    private void WriteMode(Utf8JsonWriter json)
    {
        Span<byte> digits = stackalloc byte[4];
        for (var (at, rest) = (3, Mode); at >= 0; (at, rest) = (at - 1, (ushort)(rest >> 3))) digits[at] = (byte)('0' + (rest & 7));
        json.WriteString("mode", digits);
    }

    /// <summary>Reads a line; null when it is not a well-formed entry that stays inside its folder.</summary>
    public static Entry? TryParse(ReadOnlySpan<byte> line)
    {
        try
        {
            return Parse(line);
        }
        catch (Exception wrong) when (wrong is JsonException or InvalidOperationException or FormatException or OverflowException)
        {
            return null;
        }
    }

    private static Entry? Parse(ReadOnlySpan<byte> line)
    {
        var json = new Utf8JsonReader(line);
        if (!json.Read() || json.TokenType != JsonTokenType.StartObject) return null;
        DepotPath? path = null;
        byte[]? raw = null, target = null;
        EntryKind? kind = null;
        ushort mode = 0;
        NodeOwner? owner = null;
        Stamp modified = default;
        Stamp? changed = null;
        ulong inode = 0;
        long bytes = 0;
        string? hash = null, same = null;
        SortedDictionary<string, byte[]>? attributes = null;
        List<(long, long)>? data = null;
        List<PackPiece>? packs = null;
        int? gone = null;
        var adopted = false;
        while (json.Read() && json.TokenType == JsonTokenType.PropertyName)
        {
            var name = json.ValueSpan;
            if (name.SequenceEqual("path"u8)) path = Take(ref json) is { } p ? DepotPath.TryParse(p) : null;
            else if (name.SequenceEqual("name"u8)) raw = PercentText.TryDecode(Take(ref json)!) ?? throw new FormatException();
            else if (name.SequenceEqual("kind"u8)) kind = TakeKind(ref json);
            else if (name.SequenceEqual("mode"u8)) mode = TakeMode(ref json);
            else if (name.SequenceEqual("modified"u8)) modified = TakeStamp(ref json);
            else if (name.SequenceEqual("changed"u8)) changed = TakeStamp(ref json);
            else if (name.SequenceEqual("inode"u8)) { json.Read(); inode = json.GetUInt64(); }
            else if (name.SequenceEqual("bytes"u8)) { json.Read(); bytes = json.GetInt64(); }
            else if (name.SequenceEqual("sha256"u8)) hash = Take(ref json);
            else if (name.SequenceEqual("owner"u8)) owner = OwnerOf(Take(ref json));
            else if (name.SequenceEqual("target"u8)) target = PercentText.TryDecode(Take(ref json)!) ?? throw new FormatException();
            else if (name.SequenceEqual("sameAs"u8)) same = Take(ref json);
            else if (name.SequenceEqual("goneSince"u8)) { json.Read(); gone = json.GetInt32(); }
            else if (name.SequenceEqual("adopted"u8)) { json.Read(); adopted = json.GetBoolean(); }
            else if (name.SequenceEqual("attributes"u8))
            {
                attributes = new(StringComparer.Ordinal);
                json.Read();
                while (json.Read() && json.TokenType == JsonTokenType.PropertyName)
                {
                    var attribute = json.GetString()!;
                    json.Read();
                    attributes[attribute] = json.GetBytesFromBase64();
                }
            }
            else if (name.SequenceEqual("data"u8))
            {
                data = [];
                json.Read();
                while (json.Read() && json.TokenType == JsonTokenType.Number)
                {
                    var offset = json.GetInt64();
                    json.Read();
                    data.Add((offset, json.GetInt64()));
                }
            }
            else if (name.SequenceEqual("packs"u8))
            {
                packs = [];
                json.Read();
                while (json.Read() && json.TokenType == JsonTokenType.Number)
                {
                    var pack = json.GetInt32();
                    json.Read();
                    var from = json.GetInt64();
                    json.Read();
                    packs.Add(new(pack, from, json.GetInt64()));
                }
            }
            else json.Skip();
        }
        if (path is not { } at || kind is not { } k || mode > 0xFFF || bytes < 0 || (k == EntryKind.Link && target is not { Length: > 0 }))
            return null;
        if (k == EntryKind.File && (hash is not { Length: 64 } || hash.AsSpan().ContainsAnyExcept(HexDigits))) return null;
        if (raw is not null && !StaysInside(raw)) return null;
        if (data is not null && data.Any(d => d.Item1 < 0 || d.Item2 < 0 || d.Item1 > bytes - d.Item2)) return null;
        if (packs is not null && (packs.Exists(p => p.Pack < 1 || p.At < 0 || p.Bytes < 0) || packs.Sum(p => p.Bytes) != bytes))
            return null;
        return new()
        {
            Path = at,
            Raw = raw,
            Kind = k,
            Mode = mode,
            Modified = modified,
            Changed = changed,
            Inode = inode,
            Bytes = bytes,
            Sha256 = hash,
            Owner = owner,
            Target = target,
            SameAs = same,
            Attributes = attributes,
            Data = data,
            Packs = packs,
            Adopted = adopted,
            GoneSince = gone,
        };

        static NodeOwner? OwnerOf(string? text) =>
            text?.Split(':') is [var user, var group] && uint.TryParse(user, out var u) && uint.TryParse(group, out var g)
                ? new(u, g)
                : null;

        static string? Take(ref Utf8JsonReader json)
        {
            json.Read();
            return json.GetString();
        }

        // A trip reads many of these lines: what is short and plain is read where it stands.
        static EntryKind TakeKind(ref Utf8JsonReader json)
        {
            json.Read();
            return json.ValueTextEquals("file"u8)
                ? EntryKind.File
                : json.ValueTextEquals("folder"u8)
                ? EntryKind.Folder
                : json.ValueTextEquals("link"u8)
                ? EntryKind.Link
                : throw new FormatException();
        }

        static ushort TakeMode(ref Utf8JsonReader json)
        {
            json.Read();
            if (json.TokenType != JsonTokenType.String || json.ValueSpan.Length is 0 or > 5) throw new FormatException();
            var mode = 0;
            foreach (var digit in json.ValueSpan)
                mode = digit is >= (byte)'0' and <= (byte)'7' ? (mode * 8) + digit - '0' : throw new FormatException();
            return (ushort)mode;
        }

        static Stamp TakeStamp(ref Utf8JsonReader json)
        {
            json.Read();
            return json.TokenType == JsonTokenType.String && Stamp.TryParse(json.ValueSpan, out var stamp)
                ? stamp
                : throw new FormatException();
        }
    }

    private static bool StaysInside(byte[] raw)
    {
        foreach (var range in raw.AsSpan().Split((byte)'/'))
        {
            var part = raw.AsSpan()[range];
            if (part.IsEmpty || part.SequenceEqual("."u8) || part.SequenceEqual(".."u8) || part.Contains((byte)0)) return false;
        }
        return true;
    }
}
