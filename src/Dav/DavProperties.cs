using System.Text.Json;
using System.Xml.Linq;

namespace YardRelay.Dav;

/// <summary>Dead properties: what clients set and the server only keeps. Stored beside the content in a hidden file.</summary>
internal sealed class DavProperties
{
    private readonly Lock _gate = new();
    private readonly string _file;
    private readonly Dictionary<string, Dictionary<string, string>> _of;

    public DavProperties(string file)
    {
        _file = file;
        _of = File.Exists(file)
            ? JsonSerializer.Deserialize<Dictionary<string, Dictionary<string, string>>>(File.ReadAllText(file)) ?? []
            : [];
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

    private void Save()
    {
        Directory.CreateDirectory(Path.GetDirectoryName(_file)!);
        File.WriteAllText(_file + ".new", JsonSerializer.Serialize(_of));
        File.Move(_file + ".new", _file, overwrite: true);
    }
}
