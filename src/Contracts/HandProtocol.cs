namespace YardRelay.Contracts;

/// <summary>
/// The language in which hands and service speak of orders. A hand says its number with each request; it grows when a hand of before could
/// not read what it is told, or would tell what the service cannot read.
/// </summary>
public static class HandProtocol
{
    /// <summary>The number of this version. 1 had no number: orders were one record with fields for every kind. 3 has the last
    /// look, and tells of a parcel as soon as it is begun.</summary>
    public const int Number = 3;

    /// <summary>The header that says it.</summary>
    public const string Header = "Yard-Hand-Protocol";

    /// <summary>The header that says which version of the program speaks, for people to read.</summary>
    public const string VersionHeader = "Yard-Version";
}
