namespace YardRelay.Files.Simulated;

/// <summary>What an open file and an open folder of a simulated disk have in common.</summary>
internal readonly struct SimulatedHandle(SimulatedDisk disk, ulong number)
{
    /// <exception cref="FileTroubleException">A test has this call fail.</exception>
    public void Ask(string what)
    {
        if (disk.Ask(what, number, []) is { Fault: not Fault.None } trouble) throw new FileTroubleException(trouble, what);
    }

    public NodeFacts Facts()
    {
        Ask("look");
        return disk[number].Facts(number);
    }

    public SortedDictionary<string, byte[]>? Attributes() =>
        disk[number].Attributes is { Count: > 0 } all ? new(all.ToDictionary(a => a.Key, a => a.Value), StringComparer.Ordinal) : null;

    public bool TrySetAttribute(string name, byte[] value)
    {
        if (!name.StartsWith("user.", StringComparison.Ordinal)) return false;
        disk.Change(number, n => n with { Attributes = n.Attributes.SetItem(name, value) });
        return true;
    }

    public bool TryRemoveAttribute(string name)
    {
        if (!disk[number].Attributes.ContainsKey(name)) return false;
        disk.Change(number, n => n with { Attributes = n.Attributes.Remove(name) });
        return true;
    }

    public void SetMode(ushort mode) => disk.Change(number, n => n with { Mode = mode });

    public void SetModified(Stamp modified) => disk.Change(number, n => n with { Modified = modified });
}
