namespace YardRelay.Files.Simulated;

/// <summary>What an open file and an open folder of a simulated disk have in common; closing them changes nothing.</summary>
internal sealed class SimulatedHandle(SimulatedDisk disk, ulong number) : INodeCalls
{
    public NodeFacts Facts(bool afresh = false)
    {
        lock (disk.Gate)
        {
            disk.Must("look", number);
            return disk.Said(number, afresh).Facts(number);
        }
    }

    public SortedDictionary<string, byte[]>? Attributes()
    {
        lock (disk.Gate)
        {
            disk.Must("attributes", number);
            var all = disk[number].Attributes;
            return all.IsEmpty ? null : new(all.ToDictionary(a => a.Key, a => a.Value), StringComparer.Ordinal);
        }
    }

    public bool TrySetAttribute(string name, byte[] value)
    {
        if (disk.IsPlain || !name.StartsWith("user.", StringComparison.Ordinal)) return false;
        Change(n => n with { Attributes = n.Attributes.SetItem(name, value) });
        return true;
    }

    public bool TryRemoveAttribute(string name)
    {
        lock (disk.Gate)
        {
            if (!disk[number].Attributes.ContainsKey(name)) return false;
            Change(n => n with { Attributes = n.Attributes.Remove(name) });
            return true;
        }
    }

    public void SetMode(ushort mode)
    {
        if (disk.IsPlain) throw new FileTroubleException(new(Fault.NotOwner), "set mode");
        Change(n => n with { Mode = mode });
    }

    public void SetModified(Stamp modified) => Change(n => n with { Modified = modified });

    // Programs of a simulation are killed without closing anything, and do not work beside one another.
    public bool TryHold() => true;

    public bool TrySetOwner(NodeOwner owner)
    {
        Change(n => n with { Owner = owner });
        return true;
    }

    public void Dispose()
    {
    }

    private void Change(Func<SimulatedNode, SimulatedNode> how)
    {
        lock (disk.Gate) disk.Change(number, how);
    }
}
