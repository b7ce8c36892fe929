using System.Text.Json;
using System.Xml.Linq;

namespace YardRelay.Dav;

/// <summary>Dead properties: what clients set and the server only keeps. Stored beside the content in a hidden file.</summary>
internal sealed class DavProperties
{
    private static readonly byte[] _name = "properties.json"u8.ToArray();
    private static readonly byte[] _newName = "properties.json.new"u8.ToArray();
    private readonly Lock _gate = new();
    private readonly TreeRoot _folder;
    private readonly Dictionary<string, Dictionary<string, string>> _of;

    /// <param name="folder">Where they are kept.</param>
    public DavProperties(TreeRoot folder)
    {
        _folder = folder;
        using var open = folder.Open();
        using var file = open.TryOpenFile(_name, FileUse.Read, out var trouble);
        if (file is null && trouble.Fault != Fault.NotThere) throw new FileTroubleException(trouble, "read properties");
        if (file is null)
        {
            _of = [];
            return;
        }
        using var text = new FileReadStream(file, file.Facts().Bytes, leaveOpen: true);
        _of = JsonSerializer.Deserialize<Dictionary<string, Dictionary<string, string>>>(text) ?? [];
    }

    public IReadOnlyDictionary<string, string> Of(string key)
    {
        lock (_gate) return _of.TryGetValue(key, out var found) ? new Dictionary<string, string>(found) : new Dictionary<string, string>();
    }

    public void Change(string key, IEnumerable<(XName Name, XElement? Value)> changes)
    {
        lock (_gate)
        {
            if (!_of.TryGetValue(key, out var mine)) _of[key] = mine = [];
            foreach (var (name, value) in changes)
            {
                if (value is null) mine.Remove(name.ToString());
                else mine[name.ToString()] = value.ToString(SaveOptions.DisableFormatting);
            }
            if (mine.Count == 0) _of.Remove(key);
            Save();
        }
    }

    public void Remove(string key)
    {
        lock (_gate)
            if (Below(key).ToList() is { Count: > 0 } gone)
            {
                foreach (var one in gone) _of.Remove(one);
                Save();
            }
    }

    public void Copy(string from, string to, bool deep)
    {
        lock (_gate)
        {
            var found = (deep ? Below(from) : Below(from).Where(k => k == from)).ToList();
            if (found.Count == 0) return;
            foreach (var one in found) _of[to + one[from.Length..]] = new(_of[one]);
            Save();
        }
    }

    private IEnumerable<string> Below(string key) => _of.Keys.Where(k => k == key || k.StartsWith(key + "/", StringComparison.Ordinal));

    // They are whole on the medium before they take the place of those before.
    private void Save()
    {
        using var folder = _folder.TryMake(out var trouble) ?? throw new FileTroubleException(trouble, "keep properties");
        folder.TryRemove(_newName, isFolder: false, out _);
        using (var file = folder.OpenFileAt(_newName, FileUse.MakeNew))
        {
            file.Write(0, JsonSerializer.SerializeToUtf8Bytes(_of));
            file.Sync();
        }
        if (!folder.TryRename(_newName, folder, _name, replace: true, out trouble))
            throw new FileTroubleException(trouble, "keep properties");
    }
}
