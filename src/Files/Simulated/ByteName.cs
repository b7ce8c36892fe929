namespace YardRelay.Files.Simulated;

/// <summary>A name as bytes, in the order of its bytes.</summary>
internal readonly struct ByteName(byte[] bytes) : IComparable<ByteName>, IEquatable<ByteName>
{
    public byte[] Bytes => bytes;

    public int CompareTo(ByteName other) => bytes.AsSpan().SequenceCompareTo(other.Bytes);

    public bool Equals(ByteName other) => bytes.AsSpan().SequenceEqual(other.Bytes);

    public override bool Equals(object? obj) => obj is ByteName other && Equals(other);

    public override int GetHashCode()
    {
        var hash = new HashCode();
        hash.AddBytes(bytes);
        return hash.ToHashCode();
    }
}
