
namespace YardRelay.Carriage.Parcels;

/// <summary>An entry with what the file system says of its file.</summary>
internal static class EntryFacts
{
    /// <summary>The entry with the attributes of its file or folder, and with its owner where these or its mode are an owner's.</summary>
    public static Entry Dressed(Entry entry, OpenNode node, in NodeFacts facts)
    {
        SortedDictionary<string, byte[]>? attributes = null;
        string? why = null;
        try
        {
            attributes = node.Attributes();
        }
        catch (FileTroubleException broke)
        {
            why = broke.Message;
        }
        return entry with
        {
            Attributes = attributes,
            Owner = OwnersRights.AreIn(facts.Mode, attributes) ? facts.Owner : null,
            Undressed = why,
            Changed = why is null ? entry.Changed : null,
        };
    }

    /// <summary>The entry with all that an open file says of itself.</summary>
    public static Entry Described(Entry entry, OpenFile file, NodeFacts facts, Traces traces) =>
        Dressed(entry with { Changed = traces.Tell(facts) ? facts.Changed : null }, file, facts) with
        {
            Mode = facts.Mode,
            Modified = facts.Modified,
            Bytes = facts.Bytes,
            Inode = facts.Inode,
            Data = facts.MayBeSparse ? file.DataStretches(facts.Bytes) : null,
        };
}
