using System.Globalization;

namespace YardRelay.Core.Roster;

/// <summary>A person whom a refresh has already.</summary>
/// <param name="Tags">Of their old and new computers.</param>
public sealed record KnownPerson(string Key, string Name, string? Mail, IReadOnlyList<string> Tags);

/// <summary>
/// Gives keys to the people of a roster that has none: who has the same mail, or the same name and computer, is the same person.
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
            if (people.KeyOf(row) is { } key) keys[row.Line] = key;
            else
                faults.Add(new(
                    row.Line, "name", row.Name, "somebody else is called so, and nothing tells whether it is the same person.",
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
        private readonly Dictionary<string, List<KnownPerson>> _byName = new(StringComparer.OrdinalIgnoreCase);
        private readonly HashSet<string> _keys;
        private int _last;

        public Naming(IEnumerable<KnownPerson> known, IEnumerable<string> taken)
        {
            _keys = [.. taken];
            foreach (var person in known) Add(person);
            _last = _keys.Select(NumberOf).DefaultIfEmpty(0).Max();
        }

        private static int NumberOf(string key) =>
            key is ['p', .. var rest] && int.TryParse(rest, NumberStyles.None, CultureInfo.InvariantCulture, out var n) ? n : 0;

        /// <summary>The key of whoever a row is about, a new one where nobody is like them; null: nothing tells.</summary>
        public string? KeyOf(RosterRow row)
        {
            if (row.Mail is { } mail && _byMail.TryGetValue(mail, out var known)) return known;
            var tags = new[] { row.OldTag, row.NewTag }.OfType<string>().ToList();
            // Another mail is another person. One whose mail is not known is this one where the computer is the same.
            var alike = (_byName.GetValueOrDefault(row.Name) ?? []).FindAll(p => row.Mail is null || p.Mail is null);
            if (alike.FindAll(p => p.Tags.Intersect(tags, StringComparer.OrdinalIgnoreCase).Any()) is [var same])
            {
                if (row.Mail is { } learned) _byMail[learned] = same.Key;
                return same.Key;
            }
            // A name alone is nobody's: whoever took it for somebody's would show one person the page of another.
            if (alike.Count > 0) return null;
            var key = string.Create(CultureInfo.InvariantCulture, $"p{++_last:0000}");
            Add(new(key, row.Name, row.Mail, tags));
            return key;
        }

        /// <summary>Whoever a key, a mail or a name means; null: nobody, or several.</summary>
        public string? Find(string text) =>
            _keys.Contains(text) ? text
                : _byMail.TryGetValue(text, out var key) ? key
                : _byName.GetValueOrDefault(text) is [var only] ? only.Key
                : null;

        private void Add(KnownPerson person)
        {
            _keys.Add(person.Key);
            if (person.Mail is { Length: > 0 } mail) _byMail.TryAdd(mail, person.Key);
            if (!_byName.TryGetValue(person.Name, out var same)) _byName[person.Name] = same = [];
            same.Add(person with { Mail = person.Mail is { Length: > 0 } ? person.Mail : null });
        }
    }
}
