using System.Globalization;

namespace YardRelay.Core.Roster;

/// <summary>A person whom a refresh has already.</summary>
public sealed record KnownPerson(string Key, string Name, string? Mail);

/// <summary>
/// Gives keys to the people of a roster that has none: who has the same mail, or where there is none the same name, is the same person.
/// The keys are numbers and not names: they stand where nothing can be erased any more.
/// </summary>
public static class RosterPeople
{
    /// <param name="known">Those whom the refresh has.</param>
    /// <param name="taken">Keys that are not free, of people who were erased, too.</param>
    /// <returns>The reading with a key in every good row; rows of which nothing tells whose they are have become faults.</returns>
    public static RosterReading Named(RosterReading reading, IEnumerable<KnownPerson> known, IEnumerable<string> taken)
    {
        if (reading.Rows.All(r => r.Person.Length > 0)) return reading;
        var people = new Naming(known, taken);
        var (rows, faults) = (new List<RosterRow>(), reading.Faults.ToList());
        // Who gives a mail is known for sure: whoever gives only a name is then compared with all of them.
        var keys = new Dictionary<int, string>();
        foreach (var row in reading.Rows.OrderBy(r => r.Mail is null))
        {
            if (people.KeyOf(row.Name, row.Mail) is { } key) keys[row.Line] = key;
            else
                faults.Add(new(
                    row.Line, "name", row.Name, "several people are called so, and nothing tells which of them this is.",
                    "Add a column 'mail', or 'person' with a key of each."));
        }
        foreach (var row in reading.Rows.Where(r => keys.ContainsKey(r.Line)))
            rows.Add(row with { Person = keys[row.Line], Receiver = row.Receiver is { } text ? people.Find(text) ?? text : null });
        foreach (var twice in rows.GroupBy(r => r.Key).Where(g => g.Count() > 1).SelectMany(g => g.Skip(1)))
            faults.Add(new(twice.Line, "name", twice.Name, "another line has the same person and computer.", "Keep one of the two lines."));
        var bad = faults.SelectMany(f => f.Lines ?? [f.Line]).ToHashSet();
        return reading with { Rows = [.. rows.Where(r => !bad.Contains(r.Line))], Faults = [.. faults.OrderBy(f => f.Line)] };
    }

    private sealed class Naming
    {
        private readonly Dictionary<string, string> _byMail = new(StringComparer.OrdinalIgnoreCase);
        private readonly Dictionary<string, List<(string Key, bool HasMail)>> _byName = new(StringComparer.OrdinalIgnoreCase);
        private readonly HashSet<string> _keys;
        private int _last;

        public Naming(IEnumerable<KnownPerson> known, IEnumerable<string> taken)
        {
            _keys = [.. taken];
            foreach (var person in known) Add(person.Key, person.Name, person.Mail);
            _last = _keys
                .Select(k => k is ['p', .. var rest] && int.TryParse(rest, NumberStyles.None, CultureInfo.InvariantCulture, out var n) ? n : 0)
                .DefaultIfEmpty(0)
                .Max();
        }

        /// <summary>The key of a person, a new one where nobody is like them; null: several are.</summary>
        public string? KeyOf(string name, string? mail)
        {
            if (mail is not null && _byMail.TryGetValue(mail, out var known)) return known;
            // Another mail is another person; one whose mail is not known may be this one.
            var like = (_byName.GetValueOrDefault(name) ?? []).FindAll(p => mail is null || !p.HasMail);
            if (like.Count > 1) return null;
            if (like.Count == 1)
            {
                if (mail is not null) _byMail[mail] = like[0].Key;
                return like[0].Key;
            }
            var key = string.Create(CultureInfo.InvariantCulture, $"p{++_last:0000}");
            Add(key, name, mail);
            return key;
        }

        /// <summary>Whoever a key, a mail or a name means; null: nobody, or several.</summary>
        public string? Find(string text) =>
            _keys.Contains(text) ? text
                : _byMail.TryGetValue(text, out var key) ? key
                : _byName.GetValueOrDefault(text) is [var only] ? only.Key
                : null;

        private void Add(string key, string name, string? mail)
        {
            _keys.Add(key);
            if (mail is { Length: > 0 }) _byMail.TryAdd(mail, key);
            if (!_byName.TryGetValue(name, out var same)) _byName[name] = same = [];
            if (same.TrueForAll(p => p.Key != key)) same.Add((key, mail is { Length: > 0 }));
        }
    }
}
