using YardRelay.Contracts;

namespace YardRelay.Service.Tests;

/// <summary>What a hand is told, whatever kind of order it took; null where that kind says nothing of it.</summary>
public static class TakenOrders
{
    extension(OrderTaken order)
    {
        public string Kind => order.Work.Name;

        public ParcelPlace? Place => order.Work.At;

        public string? Depot => order.Work.At?.Depot;

        public string? Parcel => order.Work.At?.Parcel;

        public string? ParcelId => order.Work.At?.ParcelId;

        public string? ParcelKey => order.Work.At?.ParcelKey;

        public DepotAccessWanted? Access => order.Work.At?.Access;

        public string? PlaceRules => (order.Work as SurveyWork)?.PlaceRules;

        public string? CarryList => (order.Work as TripWork)?.CarryList;

        public IReadOnlyList<string>? SealTo => (order.Work as TripWork)?.SealTo;

        public string? Passphrase => (order.Work as TripWork)?.Passphrase;

        public IReadOnlyList<string>? Only => (order.Work as PartRestoreWork)?.Only;

        public LandingWanted? Landing => order.Work switch
        {
            LookWork look => look.Landing,
            RestoreWork restore => restore.Landing,
            PartRestoreWork part => part.Landing,
            _ => null
        };
    }
}
