PRAGMA foreign_keys=OFF;
BEGIN TRANSACTION;
CREATE TABLE IF NOT EXISTS "__EFMigrationsLock" (
    "Id" INTEGER NOT NULL CONSTRAINT "PK___EFMigrationsLock" PRIMARY KEY,
    "Timestamp" TEXT NOT NULL
);
CREATE TABLE IF NOT EXISTS "__EFMigrationsHistory" (
    "MigrationId" TEXT NOT NULL CONSTRAINT "PK___EFMigrationsHistory" PRIMARY KEY,
    "ProductVersion" TEXT NOT NULL
);
INSERT INTO __EFMigrationsHistory VALUES('20261125024726_First','10.0.12');
INSERT INTO __EFMigrationsHistory VALUES('20261125174018_Planning','10.0.12');
INSERT INTO __EFMigrationsHistory VALUES('20261125220102_CarryLists','10.0.12');
INSERT INTO __EFMigrationsHistory VALUES('20261126011049_Parcels','10.0.12');
INSERT INTO __EFMigrationsHistory VALUES('20261126020028_Limits','10.0.12');
INSERT INTO __EFMigrationsHistory VALUES('20261126054616_WaysOfParcels','10.0.12');
INSERT INTO __EFMigrationsHistory VALUES('20261126080740_StepAnswers','10.0.12');
INSERT INTO __EFMigrationsHistory VALUES('20261126120319_DayOfTheSwap','10.0.12');
INSERT INTO __EFMigrationsHistory VALUES('20261126141103_WhatGoesOtherwise','10.0.12');
INSERT INTO __EFMigrationsHistory VALUES('20261126171627_SecondCopies','10.0.12');
INSERT INTO __EFMigrationsHistory VALUES('20261126175857_PersonsPage','10.0.12');
INSERT INTO __EFMigrationsHistory VALUES('20261126183126_Notices','10.0.12');
INSERT INTO __EFMigrationsHistory VALUES('20261126204950_ChoosingAndPrivacy','10.0.12');
INSERT INTO __EFMigrationsHistory VALUES('20261126212047_BesideOrders','10.0.12');
INSERT INTO __EFMigrationsHistory VALUES('20261126215445_FileNames','10.0.12');
INSERT INTO __EFMigrationsHistory VALUES('20261127003410_FewAmongMany','10.0.12');
CREATE TABLE IF NOT EXISTS "Accounts" (
    "Name" TEXT NOT NULL CONSTRAINT "PK_Accounts" PRIMARY KEY,
    "Shown" TEXT NOT NULL,
    "Role" TEXT NOT NULL,
    "Password" TEXT NOT NULL,
    "Sites" TEXT NOT NULL,
    "Person" TEXT NULL,
    "Failures" INTEGER NOT NULL,
    "LockedUntil" INTEGER NULL
);
INSERT INTO Accounts VALUES('kit','kit','coordinator','AQAAAAIAAYagAAAAEMuVS+3k/LiiVo7o5pokkUmKmU01mnruxAuoDQgXRbSVSI/yFEftSG3j3TuhjbnbLQ==','[]',NULL,0,NULL);
CREATE TABLE IF NOT EXISTS "Answers" (
    "Account" TEXT NOT NULL,
    "Key" TEXT NOT NULL,
    "Request" TEXT NOT NULL,
    "Status" INTEGER NOT NULL,
    "Body" TEXT NOT NULL,
    "At" INTEGER NOT NULL,
    CONSTRAINT "PK_Answers" PRIMARY KEY ("Account", "Key")
);
INSERT INTO Answers VALUES('kit','dcb82213-5243-4a6f-865f-b56702293feb','90eb9433f7d0feb3ab50ef9fcee2e6f970299eb603112ab4b91cf389668f3244',200,'{"key":"spring","name":"Spring","zone":"Europe/London","starts":"2026-12-01","days":5,"swaps":0,"head":"6:705ee67db15a0e12f173b28854c3f12a6493ffbf826165041c7de1c164fcbe6c","oldHoldDays":14}',1795986108052813);
INSERT INTO Answers VALUES('kit','aeb3544e-eaaf-4abf-a5d3-7e6e951060d9','ae64e0cc04465c94f6f1eff3d060090a8fb337a319477bc67a0b3b2260b81d6f',200,'{"dryRun":false,"number":1,"rows":3,"added":3,"changed":0,"same":0,"gone":0,"changes":[{"swap":"spring-0001","person":"Ida Moreau","change":"added","what":"renew, North Quay, KB-1 → KB-11"},{"swap":"spring-0002","person":"Sol Okafor","change":"added","what":"second, North Quay, KB-2 → KB-12"},{"swap":"spring-0003","person":"Per Lunde","change":"added","what":"issue, Lantern Point,  → KB-13"}],"rejected":[],"columns":[{"head":"person","column":"person","by":"name","samples":["k1","k2","k3"]},{"head":"name","column":"name","by":"name","samples":["Ida Moreau","Sol Okafor","Per Lunde"]},{"head":"mail","column":"mail","by":"name","samples":["ida@kestrelbay.example","sol@kestrelbay.example"]},{"head":"site","column":"site","by":"name","samples":["North Quay","Lantern Point"]},{"head":"room","column":"room","by":"name","samples":["Ticket hall","Desk 4","Desk 7"]},{"head":"kind","column":"kind","by":"name","samples":["renew","second","issue"]},{"head":"old_tag","column":"old_tag","by":"name","samples":["KB-1","KB-2"]},{"head":"new_tag","column":"new_tag","by":"name","samples":["KB-11","KB-12","KB-13"]}]}',1795986109222674);
INSERT INTO Answers VALUES('kit','847f3dba-c3a5-4d30-89eb-115a31a9a012','6d852a55e2e4c1e98e881677b2827c333da53923522770149cf6b1c135113dc8',200,'{"number":1,"state":"draft","version":1,"basedOn":0,"madeBy":"kit","madeAt":"2026-11-29T21:01:51.9258614+00:00","publishedBy":null,"publishedAt":null,"appointments":[{"swap":"spring-0003","person":"Per Lunde","site":"Lantern Point","room":"Desk 7","technician":"noor","technicianName":"Noor Haddad","start":"2026-12-01T08:00:00+00:00","handsOnUntil":"2026-12-01T08:15:00+00:00","finish":"2026-12-01T08:15:00+00:00","end":"2026-12-01T08:30:00+00:00","isBench":false,"isPinned":false},{"swap":"spring-0001","person":"Ida Moreau","site":"North Quay","room":"Ticket hall","technician":"noor","technicianName":"Noor Haddad","start":"2026-12-01T08:30:00+00:00","handsOnUntil":"2026-12-01T09:00:00+00:00","finish":"2026-12-01T09:15:00+00:00","end":"2026-12-01T09:30:00+00:00","isBench":false,"isPinned":false},{"swap":"spring-0002","person":"Sol Okafor","site":"North Quay","room":"Desk 4","technician":"noor","technicianName":"Noor Haddad","start":"2026-12-01T09:30:00+00:00","handsOnUntil":"2026-12-01T10:00:00+00:00","finish":"2026-12-01T10:15:00+00:00","end":"2026-12-01T10:30:00+00:00","isBench":false,"isPinned":false}],"leftOut":[],"lost":[],"figures":{"placed":3,"leftOut":0,"cost":6,"costLeftOut":0,"costLate":0,"costNotPreferred":0,"costMoved":0,"costJourneys":2,"costTechnicianDays":4,"lastDay":"2026-12-01"},"canUndo":false,"load":{"days":[{"day":"2026-12-01","visits":3,"handsOnMinutes":120,"shiftMinutes":465},{"day":"2026-12-02","visits":0,"handsOnMinutes":0,"shiftMinutes":465},{"day":"2026-12-03","visits":0,"handsOnMinutes":0,"shiftMinutes":465},{"day":"2026-12-04","visits":0,"handsOnMinutes":0,"shiftMinutes":465},{"day":"2026-12-05","visits":0,"handsOnMinutes":0,"shiftMinutes":0}],"depots":[{"key":"cloud","name":"Cloud","capacityBytes":null,"dailyBytes":null,"lies":[40000000000,40000000000,40000000000,40000000000,40000000000],"brought":[40000000000,0,0,0,0]}]}}',1795986112043715);
INSERT INTO Answers VALUES('kit','213ca2ba-5314-4793-ad90-248db5633024','dd3ea98e1b0113c802c8e2e08a24822facece8d59430809381b8e7b90e129286',200,'{"number":1,"state":"published","version":1,"basedOn":0,"madeBy":"kit","madeAt":"2026-11-29T21:01:51.925861+00:00","publishedBy":"kit","publishedAt":"2026-11-29T21:01:53.0859382+00:00","appointments":[{"swap":"spring-0003","person":"Per Lunde","site":"Lantern Point","room":"Desk 7","technician":"noor","technicianName":"Noor Haddad","start":"2026-12-01T08:00:00+00:00","handsOnUntil":"2026-12-01T08:15:00+00:00","finish":"2026-12-01T08:15:00+00:00","end":"2026-12-01T08:30:00+00:00","isBench":false,"isPinned":false},{"swap":"spring-0001","person":"Ida Moreau","site":"North Quay","room":"Ticket hall","technician":"noor","technicianName":"Noor Haddad","start":"2026-12-01T08:30:00+00:00","handsOnUntil":"2026-12-01T09:00:00+00:00","finish":"2026-12-01T09:15:00+00:00","end":"2026-12-01T09:30:00+00:00","isBench":false,"isPinned":false},{"swap":"spring-0002","person":"Sol Okafor","site":"North Quay","room":"Desk 4","technician":"noor","technicianName":"Noor Haddad","start":"2026-12-01T09:30:00+00:00","handsOnUntil":"2026-12-01T10:00:00+00:00","finish":"2026-12-01T10:15:00+00:00","end":"2026-12-01T10:30:00+00:00","isBench":false,"isPinned":false}],"leftOut":[],"lost":[],"figures":{"placed":3,"leftOut":0,"cost":6,"costLeftOut":0,"costLate":0,"costNotPreferred":0,"costMoved":0,"costJourneys":2,"costTechnicianDays":4,"lastDay":"2026-12-01"},"canUndo":false,"load":{"days":[{"day":"2026-12-01","visits":3,"handsOnMinutes":120,"shiftMinutes":465},{"day":"2026-12-02","visits":0,"handsOnMinutes":0,"shiftMinutes":465},{"day":"2026-12-03","visits":0,"handsOnMinutes":0,"shiftMinutes":465},{"day":"2026-12-04","visits":0,"handsOnMinutes":0,"shiftMinutes":465},{"day":"2026-12-05","visits":0,"handsOnMinutes":0,"shiftMinutes":0}],"depots":[{"key":"cloud","name":"Cloud","capacityBytes":null,"dailyBytes":null,"lies":[40000000000,40000000000,40000000000,40000000000,40000000000],"brought":[40000000000,0,0,0,0]}]}}',1795986113174849);
CREATE TABLE IF NOT EXISTS "Codes" (
    "Sha256" TEXT NOT NULL CONSTRAINT "PK_Codes" PRIMARY KEY,
    "Refresh" TEXT NOT NULL,
    "Tag" TEXT NOT NULL,
    "Expires" INTEGER NOT NULL,
    "UsedAt" INTEGER NULL
);
CREATE TABLE IF NOT EXISTS "DataProtectionKeys" (
    "Id" INTEGER NOT NULL CONSTRAINT "PK_DataProtectionKeys" PRIMARY KEY AUTOINCREMENT,
    "FriendlyName" TEXT NULL,
    "Xml" TEXT NULL
);
CREATE TABLE IF NOT EXISTS "Depots" (
    "Refresh" TEXT NOT NULL,
    "Key" TEXT NOT NULL,
    "Name" TEXT NOT NULL,
    "Address" TEXT NOT NULL, "BytesPerSecond" REAL NOT NULL DEFAULT 0.0, "CapacityBytes" INTEGER NULL, "DailyBytes" INTEGER NULL, "HoldDays" INTEGER NOT NULL DEFAULT 14, "Observed" INTEGER NOT NULL DEFAULT 0, "EndsOn" TEXT NULL, "SealTo" TEXT NOT NULL DEFAULT '[]', "Limits" TEXT NOT NULL DEFAULT '[]', "Access" TEXT NULL, "FreeBytes" INTEGER NULL, "HeardAt" INTEGER NULL, "Trouble" TEXT NULL, "CopyTo" TEXT NULL,
    CONSTRAINT "PK_Depots" PRIMARY KEY ("Refresh", "Key")
);
INSERT INTO Depots VALUES('spring','cloud','Cloud','http://127.0.0.1:1/',0.0,NULL,NULL,14,0,NULL,'[]','[]',NULL,NULL,NULL,NULL,NULL);
CREATE TABLE IF NOT EXISTS "Folders" (
    "Swap" TEXT NOT NULL,
    "Folder" TEXT NOT NULL,
    "OldFiles" INTEGER NOT NULL,
    "OldBytes" INTEGER NOT NULL,
    "DepotFiles" INTEGER NOT NULL,
    "DepotBytes" INTEGER NOT NULL,
    "NewFiles" INTEGER NULL,
    "NewBytes" INTEGER NULL, "LeftOutBytes" INTEGER NOT NULL DEFAULT 0, "LeftOutFiles" INTEGER NOT NULL DEFAULT 0,
    CONSTRAINT "PK_Folders" PRIMARY KEY ("Swap", "Folder")
);
CREATE TABLE IF NOT EXISTS "Hands" (
    "Id" TEXT NOT NULL CONSTRAINT "PK_Hands" PRIMARY KEY,
    "Refresh" TEXT NOT NULL,
    "Tag" TEXT NOT NULL,
    "Host" TEXT NOT NULL,
    "EnrolledAt" INTEGER NOT NULL,
    "SeenAt" INTEGER NULL,
    "ReplacedAt" INTEGER NULL
);
CREATE TABLE IF NOT EXISTS "Ledger" (
    "Refresh" TEXT NOT NULL,
    "Number" INTEGER NOT NULL,
    "Json" TEXT NOT NULL,
    "Sha256" TEXT NOT NULL,
    "At" INTEGER NOT NULL,
    "Swap" TEXT NULL,
    "By" TEXT NOT NULL,
    "Kind" TEXT NOT NULL,
    "Words" TEXT NOT NULL,
    "Salt" TEXT NOT NULL,
    CONSTRAINT "PK_Ledger" PRIMARY KEY ("Refresh", "Number")
);
INSERT INTO Ledger VALUES('spring',1,'{"at":"2026-11-29T21:01:47.829179Z","before":"0000000000000000000000000000000000000000000000000000000000000000","by":"b2926f8e562c2192b6790bab9291efe9dfd65b40e7076f8ccebb594d8a8a3a6c","data":{"words":"f053b6e36d383c9666c4eb6a71795c2cbcd29da13d9f0ddfb9b98986945f71ec"},"kind":"refresh.made","number":1,"refresh":"spring"}','1902750b3715c599175fe3439478ff46627e67b7b11b6aaa8a8c5f4435f77410',1795986107829179,NULL,'kit','refresh.made','Refresh Spring made','985fa25cbd9fa7dc10a5c016a63be5f8');
INSERT INTO Ledger VALUES('spring',2,'{"at":"2026-11-29T21:01:47.829179Z","before":"1902750b3715c599175fe3439478ff46627e67b7b11b6aaa8a8c5f4435f77410","by":"23afb4dab587fb273f1348c887f26781e3f373c26dc38159970e96bcaf885b46","data":{"sha256":"c0334a1a9462c97aa25afcf671cf534821003ae7f9080afdacf1dbcbb2a5a70c","version":1,"words":"3b877bc7e41811315508be5100fed754dc4c9851c9e0a2c092699b7e7c73ef01"},"kind":"checklist.version","number":2,"refresh":"spring"}','79e153c1054c9d710f150489b6a36af98728e5de3e0d2a2c343bc2069f2511db',1795986107829179,NULL,'kit','checklist.version','Checklist Change of computer, version 1, with 31 steps','f740c6682d140ef77e9e6e69a258d72e');
INSERT INTO Ledger VALUES('spring',3,'{"at":"2026-11-29T21:01:47.829179Z","before":"79e153c1054c9d710f150489b6a36af98728e5de3e0d2a2c343bc2069f2511db","by":"c03c57c88c3b7e8066a10337f77d1881f5898de59091b3afbd289b5647273f8c","data":{"sha256":"79d4564819024e0699a2f8e783f04ef90f8218b0174dcec18fc3a156f6f03047","version":1,"words":"45888024c87b16d236c0e7385ce1de6900ac7d1e59bd459565de7d26b1276fee"},"kind":"checklist.version","number":3,"refresh":"spring"}','1101d47d137d12b5740a25ef5f57536fd3b41e0c0fe4c3ef666fbd3aa13a6a72',1795986107829179,NULL,'kit','checklist.version','Checklist First computer, version 1, with 7 steps','29a568be8402402eba917583196050b5');
INSERT INTO Ledger VALUES('spring',4,'{"at":"2026-11-29T21:01:47.829179Z","before":"1101d47d137d12b5740a25ef5f57536fd3b41e0c0fe4c3ef666fbd3aa13a6a72","by":"291150226cb28f9dea80a83463416ecf402a6c57b7951d9586594c86a33e5152","data":{"sha256":"a0026e1eaab6de11bdbf218601bb5c87d8a7ccbd5dc998b35f67f71a4c8aafc8","version":1,"words":"ad2a859e8b006db09b830a4e392dcbf34d34cbe483369ea5e11fe34c4079eeaf"},"kind":"checklist.version","number":4,"refresh":"spring"}','7a6b99893acdf4e96079981c56c505c85fb7048811649c515c8aa54ba9724818',1795986107829179,NULL,'kit','checklist.version','Checklist Leave, version 1, with 9 steps','ab70b2f6ef7d1f1c7c9bb03e6f9c12f0');
INSERT INTO Ledger VALUES('spring',5,'{"at":"2026-11-29T21:01:47.829179Z","before":"7a6b99893acdf4e96079981c56c505c85fb7048811649c515c8aa54ba9724818","by":"f008f50883189d8c909bf51221e6a4b1b05f2f9dbef372ecef1cdc1284bc6950","data":{"sha256":"c041a8dd000813d5b3b1c2717c3fec8cdb260d8aff51b8286fe4ec1d360edd3f","version":1,"words":"106026d4d5e60c4090a0e049caae8b955bae4386a73cbca9bfaeea0b0b0b1d91"},"kind":"checklist.version","number":5,"refresh":"spring"}','c3e830d6acb20fea0e5b7cecce6c568e49866a7fce9e59fe19cc9569496f927e',1795986107829179,NULL,'kit','checklist.version','Checklist Rescue, version 1, with 10 steps','07dca34785075c1c9eff98fc148df75e');
INSERT INTO Ledger VALUES('spring',6,'{"at":"2026-11-29T21:01:47.829179Z","before":"c3e830d6acb20fea0e5b7cecce6c568e49866a7fce9e59fe19cc9569496f927e","by":"7a3c702ce1cf6c4168d61a6fcfd6ca208c3592970fc4d9c3d84a8bb6270327f2","data":{"sha256":"894bc97082677c98c697736b1c659028ba76e8822b4f9ce70d3ca0843fe0627a","version":1,"words":"65cfaa022f6ca1868d48b29afdce3771ea4d01494662685bd2a573d9b1f7394e"},"kind":"checklist.version","number":6,"refresh":"spring"}','705ee67db15a0e12f173b28854c3f12a6493ffbf826165041c7de1c164fcbe6c',1795986107829179,NULL,'kit','checklist.version','Checklist Set up afresh, version 1, with 16 steps','5f0faef8cc722bdf962e0cc2380021f1');
INSERT INTO Ledger VALUES('spring',7,'{"at":"2026-11-29T21:01:48.724007Z","before":"705ee67db15a0e12f173b28854c3f12a6493ffbf826165041c7de1c164fcbe6c","by":"50c8784b834166377b4186b2a30ec171b9bcbf72c5b5a4f6aa478d2b3e37d1a8","data":{"swap":"spring-0001","words":"de7bbf132a296033d2c056a5b5229983717c33f0a769c7aef38002b0baa3fbf7"},"kind":"swap.made","number":7,"refresh":"spring"}','a0ff934159118271a7052599c73bf6d5b9e5f29e8221f932232f4c59cc62c953',1795986108724007,'spring-0001','kit','swap.made','Swap for Ida Moreau made from the roster','595c8f17edaba923d034b11d17b54a99');
INSERT INTO Ledger VALUES('spring',8,'{"at":"2026-11-29T21:01:48.724007Z","before":"a0ff934159118271a7052599c73bf6d5b9e5f29e8221f932232f4c59cc62c953","by":"210b39208abe2485c29ac28b7f7143b274f0d8f896458cf8ea6574ad1aaaf170","data":{"swap":"spring-0002","words":"31ce3dbd9ec170cf10549aa1b333860bbddb1e9825eb6ca6a9bf9a6a26e36c67"},"kind":"swap.made","number":8,"refresh":"spring"}','7b1c5af25ada251d9c7f1e83bff8ba5806e1797231bafbb606043a2ece33e9de',1795986108724007,'spring-0002','kit','swap.made','Swap for Sol Okafor made from the roster','7f720cd64388e0dd7c83cfc55340dd49');
INSERT INTO Ledger VALUES('spring',9,'{"at":"2026-11-29T21:01:48.724007Z","before":"7b1c5af25ada251d9c7f1e83bff8ba5806e1797231bafbb606043a2ece33e9de","by":"117a4ebf7184da031fbc0a14cc87ee371ece83be8fd6e9be02ccc99e0191824d","data":{"swap":"spring-0003","words":"7ba1d9cf3ea7c4fe7ba48b602e79d009e9b1fcd1a9a56f698045468b7df13d1e"},"kind":"swap.made","number":9,"refresh":"spring"}','f1b7f7ab784b9c6276e19ebfe3bcccd506852ea3c7b07bc67afe30b24f1e0af1',1795986108724007,'spring-0003','kit','swap.made','Swap for Per Lunde made from the roster','a0ed62a14a45e41bfec514156dbf057a');
INSERT INTO Ledger VALUES('spring',10,'{"at":"2026-11-29T21:01:48.724007Z","before":"f1b7f7ab784b9c6276e19ebfe3bcccd506852ea3c7b07bc67afe30b24f1e0af1","by":"d508f37df73ffb176ca6d117ad68334f3b72029a5c7077578039f6179a9ab54a","data":{"added":3,"changed":0,"dropped":0,"rows":3,"words":"89852070a373240f3fc8afad23c0db23ed5db65830a82034d7c02d534e30da83"},"kind":"roster.taken","number":10,"refresh":"spring"}','03f3d5f41146fd05b56d523a689bf1b60cb8da59ee41a50d67a0bae52c3736d4',1795986108724007,NULL,'kit','roster.taken','Roster of 3 rows taken: 3 added, 0 changed','18b4364139680e0c2f9e7fd70de311ac');
INSERT INTO Ledger VALUES('spring',11,'{"at":"2026-11-29T21:01:49.967523Z","before":"03f3d5f41146fd05b56d523a689bf1b60cb8da59ee41a50d67a0bae52c3736d4","by":"f3e52a66fc4a32b674e1a832a9f5bb3d2942c85cf6b1ac584898dc23194fd665","data":{"words":"0ff0a9a334c9c2d7bef302bf65092ec7649602f4de5c090aa7ce1d3fdfca1d85"},"kind":"technician.set","number":11,"refresh":"spring"}','ecc9861ba7eb72272ff64729b9a0b750ab6afb58a98cbcf27851c1f85acb33b4',1795986109967523,NULL,'kit','technician.set','Technician Noor Haddad serves North Quay, Lantern Point, 08:00-12:00, 12:45-16:30','7fe50c2352d63d3b62bee2925d947238');
INSERT INTO Ledger VALUES('spring',12,'{"at":"2026-11-29T21:01:50.605664Z","before":"ecc9861ba7eb72272ff64729b9a0b750ab6afb58a98cbcf27851c1f85acb33b4","by":"da27d24069a890af5c9653a3cbe7b6b285fa9724d8c985a2f42ec7989a61313e","data":{"words":"b4feff76c46c9ec788ce93e91f5a4ffb2e39d3955b7cb6f73c1c343e6ee1d6f9"},"kind":"depot.set","number":12,"refresh":"spring"}','685aa43157217928e9a38f6865e9ec083ebffa5e93960a46c3e805d8d8a0b194',1795986110605664,NULL,'kit','depot.set','Depot Cloud is http://127.0.0.1:1/','050047462c328dbc11e2e192ea9b2527');
INSERT INTO Ledger VALUES('spring',13,'{"at":"2026-11-29T21:01:51.925861Z","before":"685aa43157217928e9a38f6865e9ec083ebffa5e93960a46c3e805d8d8a0b194","by":"6cf31bf9481621e990a7ac99da3b189b19e2602a5f607b211767a92836f177cd","data":{"cost":6,"leftOut":0,"placed":3,"plan":1,"words":"20d12f3b841feee6b6936a3e1be60ac0792a4c4565c9a983cfe1222552bd0a4b"},"kind":"plan.drafted","number":13,"refresh":"spring"}','1537683aab7501ebacf535d9de437695f66d49fa7a39ee6e78a849c863b097f9',1795986111925861,NULL,'kit','plan.drafted','Draft 1 of a plan: 3 appointments, 0 left out, cost 6','6c04445a5880d5b14d56460e3dc5509f');
INSERT INTO Ledger VALUES('spring',14,'{"at":"2026-11-29T21:01:53.085938Z","before":"1537683aab7501ebacf535d9de437695f66d49fa7a39ee6e78a849c863b097f9","by":"2d9c617bb22f5e2f9289243f20a4966ea53e7d044f495ce0e3bc879c88833316","data":{"swap":"spring-0001","words":"56173803ce80140836f6f055aeee624496cc6473bad0a0fc35a7923ac11dd5cc"},"kind":"swap.booked","number":14,"refresh":"spring"}','8dddab5c29d49b5ee204dd90ac1c49597fc34d79c6ee42ac94302b7373a8ce28',1795986113085938,'spring-0001','kit','swap.booked','Booked Ida Moreau to Tue 1 Dec 08:30 with Noor Haddad','cb3b7326b9d57071349dc6905397d88c');
INSERT INTO Ledger VALUES('spring',15,'{"at":"2026-11-29T21:01:53.085938Z","before":"8dddab5c29d49b5ee204dd90ac1c49597fc34d79c6ee42ac94302b7373a8ce28","by":"b4ca9b05ed279c05b2f8b22b529db2540832496012e819dd52e924d57abe55db","data":{"swap":"spring-0002","words":"2e02b415efd396e314e7ec075f65202001f5a94a31d6c9779dee59c33c328824"},"kind":"swap.booked","number":15,"refresh":"spring"}','1941fc0af46384a1ac258cc06aecf72930c42205fd23a6d357e5493342fa17b8',1795986113085938,'spring-0002','kit','swap.booked','Booked Sol Okafor to Tue 1 Dec 09:30 with Noor Haddad','4ec52f8d7e7f90f1180a1f6ec718aca4');
INSERT INTO Ledger VALUES('spring',16,'{"at":"2026-11-29T21:01:53.085938Z","before":"1941fc0af46384a1ac258cc06aecf72930c42205fd23a6d357e5493342fa17b8","by":"39bba2237ac3c0833878437cfcc9cb0eb53a0fefb8bdc952603c6a8c7da2bd3d","data":{"swap":"spring-0003","words":"971cc8e644e32cd97bfb6872c28cb5b29fba4ffffa0976c804b069f5316fb85d"},"kind":"swap.booked","number":16,"refresh":"spring"}','70c4875cc5e78233fd814289a97b0bc511daf528abe21f60622d0b26a30a51ae',1795986113085938,'spring-0003','kit','swap.booked','Booked Per Lunde to Tue 1 Dec 08:00 with Noor Haddad','cc9bd7b48ae459238ed3cf3a70d3d20d');
INSERT INTO Ledger VALUES('spring',17,'{"at":"2026-11-29T21:01:53.085938Z","before":"70c4875cc5e78233fd814289a97b0bc511daf528abe21f60622d0b26a30a51ae","by":"55d8e6098a1c0ae88362791e00ee71e9c82a1d313172f5acf2bcd16c105aaae8","data":{"affected":3,"leftOut":0,"placed":3,"plan":1,"words":"7692a754577659e41ba61c632f143feb86d11e2bed2e5ad1a3a80e0a4ecf1276"},"kind":"plan.published","number":17,"refresh":"spring"}','5da5790bd5dc052bc29d1506af5297bbc268fbc6f198ceada074b96963dc4ce7',1795986113085938,NULL,'kit','plan.published','Plan 1 published: 3 appointments, 0 left out, 3 swaps affected','bec5fa1570a5897459438b7b43d35075');
INSERT INTO Ledger VALUES('spring',18,'{"at":"2026-11-29T21:01:54.728017Z","before":"5da5790bd5dc052bc29d1506af5297bbc268fbc6f198ceada074b96963dc4ce7","by":"19880c8b8f88c5d6244167743246338ca964e85e872611c98a544b6e75a57c28","data":{"step":"told","swap":"spring-0001","words":"6f34d2853236c808191b90af02bde226099a5b897df07db2106184a3345a06e6"},"kind":"step.done","number":18,"refresh":"spring"}','d4d1cf15ae54ce169c91aab2ab9378a7c859cfef73c386c4fe17d6fe29071d09',1795986114728017,'spring-0001','kit','step.done','kit: Person has been told when and what','93ca26a790744361351f5a67c810ad9d');
CREATE TABLE IF NOT EXISTS "Orders" (
    "Id" TEXT NOT NULL CONSTRAINT "PK_Orders" PRIMARY KEY,
    "Refresh" TEXT NOT NULL,
    "Swap" TEXT NOT NULL,
    "Kind" TEXT NOT NULL,
    "Tag" TEXT NOT NULL,
    "State" TEXT NOT NULL,
    "MadeBy" TEXT NOT NULL,
    "MadeAt" INTEGER NOT NULL,
    "Hand" TEXT NULL,
    "Attempt" INTEGER NOT NULL,
    "NextBatch" INTEGER NOT NULL,
    "LeaseUntil" INTEGER NULL,
    "TakenAt" INTEGER NULL,
    "HeardAt" INTEGER NULL,
    "EndedAt" INTEGER NULL,
    "Files" INTEGER NOT NULL,
    "TotalFiles" INTEGER NOT NULL,
    "Bytes" INTEGER NOT NULL,
    "TotalBytes" INTEGER NOT NULL,
    "BytesPerSecond" INTEGER NOT NULL,
    "Words" TEXT NULL
, "Landing" TEXT NULL, "ByNeed" INTEGER NOT NULL DEFAULT 0, "Folder" TEXT NULL, "Beside" INTEGER NOT NULL DEFAULT 0, "PausedAt" INTEGER NULL, "Waits" TEXT NULL);
CREATE TABLE IF NOT EXISTS "People" (
    "Refresh" TEXT NOT NULL,
    "Key" TEXT NOT NULL,
    "Name" TEXT NOT NULL,
    "Mail" TEXT NULL,
    "Department" TEXT NULL, "Role" TEXT NULL, "Language" TEXT NULL, "MailOff" INTEGER NOT NULL DEFAULT 0, "ErasedAt" INTEGER NULL, "NamesAllowedAt" INTEGER NULL,
    CONSTRAINT "PK_People" PRIMARY KEY ("Refresh", "Key")
);
INSERT INTO People VALUES('spring','k1','Ida Moreau','ida@kestrelbay.example',NULL,NULL,NULL,0,NULL,NULL);
INSERT INTO People VALUES('spring','k2','Sol Okafor','sol@kestrelbay.example',NULL,NULL,NULL,0,NULL,NULL);
INSERT INTO People VALUES('spring','k3','Per Lunde',NULL,NULL,NULL,NULL,0,NULL,NULL);
CREATE TABLE IF NOT EXISTS "Refreshes" (
    "Key" TEXT NOT NULL CONSTRAINT "PK_Refreshes" PRIMARY KEY,
    "Name" TEXT NOT NULL,
    "Zone" TEXT NOT NULL,
    "Starts" TEXT NOT NULL,
    "Days" INTEGER NOT NULL,
    "LedgerNumber" INTEGER NOT NULL,
    "LedgerSha256" TEXT NOT NULL,
    "LastSwap" INTEGER NOT NULL
, "LastPlan" INTEGER NOT NULL DEFAULT 0, "WorldVersion" INTEGER NOT NULL DEFAULT 0, "PlaceRules" TEXT NULL, "OldHoldDays" INTEGER NOT NULL DEFAULT 14, "ChooseHours" INTEGER NOT NULL DEFAULT 24, "NoticesSince" INTEGER NULL, "KeepDays" INTEGER NULL, "MostPerSlot" INTEGER NULL, "AsksForNames" INTEGER NOT NULL DEFAULT 0);
INSERT INTO Refreshes VALUES('spring','Spring','Europe/London','2026-12-01',5,18,'d4d1cf15ae54ce169c91aab2ab9378a7c859cfef73c386c4fe17d6fe29071d09',3,1,5,NULL,14,24,NULL,NULL,NULL,0);
CREATE TABLE IF NOT EXISTS "SignOffs" (
    "Swap" TEXT NOT NULL,
    "Part" TEXT NOT NULL,
    "By" TEXT NOT NULL,
    "At" INTEGER NOT NULL,
    "Saw" TEXT NOT NULL, "Drawn" TEXT NULL, "Witness" TEXT NULL,
    CONSTRAINT "PK_SignOffs" PRIMARY KEY ("Swap", "Part")
);
CREATE TABLE IF NOT EXISTS "Sites" (
    "Refresh" TEXT NOT NULL,
    "Key" TEXT NOT NULL,
    "Name" TEXT NOT NULL,
    "Benches" INTEGER NOT NULL, "Opens" TEXT NOT NULL DEFAULT 'daily 07:00-19:00', "Rooms" TEXT NOT NULL DEFAULT '[]', "Limits" TEXT NOT NULL DEFAULT '[]',
    CONSTRAINT "PK_Sites" PRIMARY KEY ("Refresh", "Key")
);
INSERT INTO Sites VALUES('spring','Lantern Point','Lantern Point',2,'daily 07:00-19:00','[]','[]');
INSERT INTO Sites VALUES('spring','North Quay','North Quay',2,'daily 07:00-19:00','[]','[]');
CREATE TABLE IF NOT EXISTS "Snags" (
    "Id" TEXT NOT NULL CONSTRAINT "PK_Snags" PRIMARY KEY,
    "Refresh" TEXT NOT NULL,
    "Swap" TEXT NOT NULL,
    "Path" TEXT NOT NULL,
    "Kind" TEXT NOT NULL,
    "Side" TEXT NOT NULL,
    "Bytes" INTEGER NOT NULL,
    "Reason" TEXT NOT NULL,
    "CountsAsFile" INTEGER NOT NULL,
    "End" TEXT NOT NULL,
    "EndedBy" TEXT NULL,
    "EndReason" TEXT NULL,
    "At" INTEGER NOT NULL,
    "EndedAt" INTEGER NULL
, "Files" INTEGER NOT NULL DEFAULT 1);
CREATE TABLE IF NOT EXISTS "Steps" (
    "Swap" TEXT NOT NULL,
    "Key" TEXT NOT NULL,
    "State" TEXT NOT NULL,
    "By" TEXT NOT NULL,
    "At" INTEGER NOT NULL,
    "Reason" TEXT NULL, "Runs" INTEGER NOT NULL DEFAULT 0, "StartedAt" INTEGER NULL, "Value" TEXT NULL,
    CONSTRAINT "PK_Steps" PRIMARY KEY ("Swap", "Key")
);
INSERT INTO Steps VALUES('spring-0001','told','done','kit',1795986114728017,NULL,0,NULL,NULL);
CREATE TABLE IF NOT EXISTS "Swaps" (
    "Id" TEXT NOT NULL CONSTRAINT "PK_Swaps" PRIMARY KEY,
    "Refresh" TEXT NOT NULL,
    "RosterKey" TEXT NOT NULL,
    "Person" TEXT NOT NULL,
    "Name" TEXT NOT NULL,
    "Site" TEXT NOT NULL,
    "Room" TEXT NULL,
    "Kind" TEXT NOT NULL,
    "OldTag" TEXT NULL,
    "OldModel" TEXT NULL,
    "NewTag" TEXT NULL,
    "NewModel" TEXT NULL,
    "Receiver" TEXT NULL,
    "Free" TEXT NOT NULL,
    "Technician" TEXT NULL,
    "Start" INTEGER NULL,
    "HandsOnUntil" INTEGER NULL,
    "Finish" INTEGER NULL,
    "End" INTEGER NULL,
    "LeftOutBecause" TEXT NULL,
    "ToldAt" INTEGER NULL,
    "SurveyedAt" INTEGER NULL,
    "BookedAt" INTEGER NULL,
    "StagedAt" INTEGER NULL,
    "SwappedAt" INTEGER NULL,
    "RestoredAt" INTEGER NULL,
    "AcceptedAt" INTEGER NULL,
    "HandedInAt" INTEGER NULL,
    "Next" INTEGER NOT NULL,
    "Depot" TEXT NULL,
    "Parcel" TEXT NULL,
    "Trips" INTEGER NOT NULL,
    "TripAt" INTEGER NULL,
    "VerifiedAt" INTEGER NULL,
    "VerifiedWhole" INTEGER NOT NULL,
    "RestoreAt" INTEGER NULL,
    "RestoreWhole" INTEGER NOT NULL,
    "Template" TEXT NOT NULL,
    "TemplateVersion" INTEGER NOT NULL,
    "ChecklistVersion" INTEGER NOT NULL
, "Accounts" TEXT NOT NULL DEFAULT '[]', "BenchEnd" INTEGER NULL, "BenchHandsOnUntil" INTEGER NULL, "BenchStart" INTEGER NULL, "BenchTechnician" TEXT NULL, "Closes" TEXT NULL, "PinnedStart" INTEGER NULL, "PinnedTechnician" TEXT NULL, "Preferred" TEXT NOT NULL DEFAULT '[]', "Sequence" INTEGER NOT NULL DEFAULT 0, "Skills" TEXT NOT NULL DEFAULT '[]', "Wave" TEXT NULL, "Weight" INTEGER NOT NULL DEFAULT 5, "PurgedAt" INTEGER NULL, "ParcelId" TEXT NULL, "ReceiverAcceptedAt" INTEGER NULL, "ReceiverAcceptedBy" TEXT NULL, "ReceiverTag" TEXT NULL, "RescuedFrom" TEXT NULL, "RestoreSkipReason" TEXT NULL, "RestoreSkippedAt" INTEGER NULL, "RestoreSkippedBy" TEXT NULL, "CalledOffAt" INTEGER NULL, "CalledOffBecause" TEXT NULL, "Missed" INTEGER NOT NULL DEFAULT 0, "NewPlatform" TEXT NULL, "OldDiedAt" INTEGER NULL, "OldPlatform" TEXT NULL, "Prepared" INTEGER NOT NULL DEFAULT 0, "UrgentReadyAt" INTEGER NULL, "CopiedAt" INTEGER NULL, "ChosenAt" INTEGER NULL, "Offer" TEXT NULL);
INSERT INTO Swaps VALUES('spring-0001','spring','k1/KB-1','k1','Ida Moreau','North Quay','Ticket hall','Renew','KB-1',NULL,'KB-11',NULL,NULL,'[]','noor',1796113800000000,1796115600000000,1796116500000000,1796117400000000,NULL,1795986114728017,NULL,1795986113085938,NULL,NULL,NULL,NULL,NULL,3,NULL,NULL,0,NULL,NULL,0,NULL,0,'Change of computer',1,1,'[]',NULL,NULL,NULL,NULL,NULL,NULL,NULL,'[]',1,'[]',NULL,5,NULL,NULL,NULL,NULL,NULL,NULL,NULL,NULL,NULL,NULL,NULL,0,NULL,NULL,NULL,0,NULL,NULL,NULL,NULL);
INSERT INTO Swaps VALUES('spring-0002','spring','k2/KB-2','k2','Sol Okafor','North Quay','Desk 4','Second','KB-2',NULL,'KB-12',NULL,NULL,'[]','noor',1796117400000000,1796119200000000,1796120100000000,1796121000000000,NULL,NULL,NULL,1795986113085938,NULL,NULL,NULL,NULL,NULL,3,NULL,NULL,0,NULL,NULL,0,NULL,0,'Change of computer',1,0,'[]',NULL,NULL,NULL,NULL,NULL,NULL,NULL,'[]',1,'[]',NULL,5,NULL,NULL,NULL,NULL,NULL,NULL,NULL,NULL,NULL,NULL,NULL,0,NULL,NULL,NULL,0,NULL,NULL,NULL,NULL);
INSERT INTO Swaps VALUES('spring-0003','spring','k3/KB-13','k3','Per Lunde','Lantern Point','Desk 7','Issue',NULL,NULL,'KB-13',NULL,NULL,'[]','noor',1796112000000000,1796112900000000,1796112900000000,1796113800000000,NULL,NULL,NULL,1795986113085938,NULL,NULL,NULL,NULL,NULL,2,NULL,NULL,0,NULL,NULL,0,NULL,0,'First computer',1,0,'[]',NULL,NULL,NULL,NULL,NULL,NULL,NULL,'[]',1,'[]',NULL,5,NULL,NULL,NULL,NULL,NULL,NULL,NULL,NULL,NULL,NULL,NULL,0,NULL,NULL,NULL,0,NULL,NULL,NULL,NULL);
CREATE TABLE IF NOT EXISTS "Technicians" (
    "Refresh" TEXT NOT NULL,
    "Key" TEXT NOT NULL,
    "Name" TEXT NOT NULL,
    "Sites" TEXT NOT NULL,
    "Shifts" TEXT NOT NULL, "Absences" TEXT NOT NULL DEFAULT '[]', "Skills" TEXT NOT NULL DEFAULT '[]',
    CONSTRAINT "PK_Technicians" PRIMARY KEY ("Refresh", "Key")
);
INSERT INTO Technicians VALUES('spring','noor','Noor Haddad','["North Quay","Lantern Point"]','["08:00-12:00","12:45-16:30"]','[]','[]');
CREATE TABLE IF NOT EXISTS "Templates" (
    "Refresh" TEXT NOT NULL,
    "Name" TEXT NOT NULL,
    "Version" INTEGER NOT NULL,
    "Yaml" TEXT NOT NULL,
    "Steps" INTEGER NOT NULL,
    "At" INTEGER NOT NULL,
    CONSTRAINT "PK_Templates" PRIMARY KEY ("Refresh", "Name", "Version")
);
INSERT INTO Templates VALUES('spring','Change of computer',1,replace('name: Change of computer\nkinds: [renew, second]\nsteps:\n  - key: told\n    phase: before\n    title: Person has been told when and what\n    kind: confirmation\n    marks: told\n    help: |\n      Name the **day**, the **room**, what comes along, and that urgent files stay at hand.\n  - key: passphrase\n    phase: before\n    title: Person has set the passphrase of their sealed files\n    kind: automatic\n    fact: passphrase-set\n    help: On their own page. A forgotten one is no lost data; the organisation''s recovery key opens the files, too.\n  - key: noted\n    phase: before\n    who: person\n    title: Licences, and names to sign in with, are noted down\n    kind: confirmation\n  - key: ready\n    phase: before\n    who: person\n    title: Person says that everything they know of is staged or named\n    kind: confirmation\n    help: Their own words count. Ask for folders outside the usual ones, a second disk, a shared mailbox.\n  - key: new-tag\n    phase: before\n    title: Right new computer\n    kind: scan\n    expects: new\n    help: Read the label on the case, not the one on the box.\n  - key: updates\n    phase: before\n    on: new\n    title: System, maker and program shop are up to date\n    kind: again\n    until: nothing more is offered, and no restart is asked for\n    help: |\n      Before any restore:\n      1. the system''s own updates,\n      2. the maker''s (firmware, drivers),\n      3. the program shop''s.\n  - key: unwanted-off\n    phase: before\n    on: new\n    title: Unwanted programs and background activity are off\n    kind: tick\n  - key: cleared\n    phase: before\n    on: new\n    title: Temporary files are cleared\n    kind: again\n    until: nothing more goes\n    help: The system''s and the user''s. Run it again until nothing more goes.\n  - key: power\n    phase: before\n    on: new\n    title: Power plan and display are set\n    kind: choice\n    options: [desk, on the move, always on]\n  - key: maintenance\n    phase: before\n    on: new\n    title: How often it is looked after\n    kind: choice\n    options: [every month, every quarter, every half year]\n    propose: by-growth\n    help: The more its files grow, the sooner it needs somebody. After two surveys a day or more apart, an answer is proposed.\n  - key: prepared\n    phase: before\n    on: new\n    title: New computer restarts clean\n    kind: restart\n  - key: old-tag\n    phase: swap\n    title: Right old computer\n    kind: scan\n    expects: old\n    help: Read the label on the case, not the one on the screen.\n  - key: programs-closed\n    phase: swap\n    who: person\n    title: Programs are closed on the old computer\n    kind: tick\n  - key: staged\n    phase: swap\n    title: All files staged and verified\n    kind: automatic\n    fact: staged-and-verified\n  - key: licences-out\n    phase: swap\n    title: Licence-bound programs are signed out on the old computer\n    kind: tick\n    help: While data comes over, install them on the new one. The report of the parcel lists them.\n  - key: swapped\n    phase: swap\n    on: new\n    title: New computer stands at the desk, with keyboard, mouse, network and power\n    kind: tick\n    marks: swapped\n  - key: screens\n    phase: swap\n    on: new\n    title: Screens at the desk\n    kind: number\n    unit: screens\n    least: 0\n    most: 6\n  - key: screens-set\n    phase: swap\n    on: new\n    title: Screens are in order and sharp\n    kind: tick\n    when: { answers: { screens: ["2", "3", "4", "5", "6"] } }\n  - key: connected\n    phase: swap\n    on: new\n    title: Drives and whatever else stood at the desk are connected and answer\n    kind: tick\n  - key: printer\n    phase: swap\n    on: new\n    title: Printer\n    kind: choice\n    options: [prints, none needed]\n  - key: restored\n    phase: after\n    title: All files restored and verified\n    kind: automatic\n    fact: restored-and-verified\n  - key: account\n    phase: after\n    title: The account is closed, every folder adds up\n    kind: automatic\n    fact: account-closed\n  - key: restarted\n    phase: after\n    on: new\n    title: New computer restarts with everything in place\n    kind: restart\n  - key: one-library\n    phase: after\n    on: new\n    title: Only one photo, music and mail library of each kind\n    kind: tick\n    help: Before any of them is opened first.\n  - key: opened\n    phase: after\n    on: new\n    title: Libraries are opened and show their content\n    kind: timed\n    help: Agreements and the upgrade of a library take their time; start it, and come back.\n  - key: mail\n    phase: after\n    on: new\n    title: Mail and bookmarks are there\n    kind: tick\n  - key: desktop\n    phase: after\n    on: new\n    title: Desktop looks as before\n    kind: tick\n  - key: backup\n    phase: after\n    on: new\n    title: Ongoing backup taken over, with the same archive, selection and settings, and has run once\n    kind: tick\n  - key: looked\n    phase: after\n    title: Person has looked and is content\n    kind: confirmation\n    marks: accepted\n  - key: signed-out\n    phase: hand-in\n    title: Old computer signed out of cloud storage, then of all other accounts\n    kind: tick\n    help: Cloud storage first, so that deleting here does not delete there.\n  - key: handed-in\n    phase: hand-in\n    title: Old computer is in the store, with its hold date on it\n    kind: tick\n    marks: handed-in\n','\n',char(10)),31,1795986107829179);
INSERT INTO Templates VALUES('spring','First computer',1,replace('name: First computer\nkinds: [issue]\nsteps:\n  - { key: told, phase: before, title: Person has been told when and where, kind: confirmation, marks: told }\n  - { key: new-tag, phase: before, title: Right new computer, kind: scan, expects: new }\n  - { key: updates, phase: before, on: new, title: "System, maker and program shop are up to date", kind: again, until: "nothing more is offered, and no restart is asked for" }\n  - { key: swapped, phase: swap, on: new, title: "Computer stands at the desk, with screen, keyboard and network", kind: tick, marks: swapped }\n  - { key: programs, phase: swap, on: new, title: Programs of the department are installed, kind: tick }\n  - { key: backup, phase: after, on: new, title: Ongoing backup is set up and has run once, kind: tick }\n  - { key: looked, phase: after, title: Person has signed in and is content, kind: confirmation, marks: accepted }\n','\n',char(10)),7,1795986107829179);
INSERT INTO Templates VALUES('spring','Leave',1,replace('name: Leave\nkinds: [leave]\nsteps:\n  - { key: told, phase: before, title: Person has been told what happens with their files, kind: confirmation, marks: told }\n  - { key: private, phase: before, title: Private files, kind: choice, options: [taken along by the person, there are none] }\n  - { key: old-tag, phase: swap, title: Right old computer, kind: scan, expects: old }\n  - { key: programs-closed, phase: swap, title: Programs are closed on the old computer, kind: tick }\n  - { key: staged, phase: swap, title: All files staged and verified, kind: automatic, fact: staged-and-verified }\n  - { key: licences-out, phase: swap, title: Licence-bound programs are signed out, kind: tick }\n  - { key: looked, phase: after, title: The receiver has looked and is content, kind: confirmation, marks: accepted }\n  - { key: signed-out, phase: hand-in, title: "Old computer signed out of cloud storage, then of all other accounts", kind: tick, help: "Cloud storage first, so that deleting here does not delete there." }\n  - { key: handed-in, phase: hand-in, title: "Old computer is in the store, with its hold date on it", kind: tick, marks: handed-in }\n','\n',char(10)),9,1795986107829179);
INSERT INTO Templates VALUES('spring','Rescue',1,replace('name: Rescue\nkinds: [rescue]\nsteps:\n  - { key: told, phase: before, title: Person knows what is there and what is missing since, kind: confirmation, marks: told, help: "The page of the swap says from which day the last good trip is." }\n  - { key: new-tag, phase: swap, title: Right new computer, kind: scan, expects: new }\n  - { key: updates, phase: swap, on: new, title: "System, maker and program shop are up to date", kind: again, until: "nothing more is offered, and no restart is asked for" }\n  - { key: swapped, phase: swap, on: new, title: "New computer stands at the desk, with screen, keyboard and network", kind: tick, marks: swapped }\n  - { key: restored, phase: after, title: All files restored and verified, kind: automatic, fact: restored-and-verified }\n  - { key: missing-named, phase: after, title: "What is missing since the last good trip, in the person''s words", kind: text }\n  - { key: opened, phase: after, on: new, title: "Mail, bookmarks and libraries open and show their content", kind: tick }\n  - { key: accounts-closed, phase: after, title: "Passwords that the lost computer knew are changed", kind: choice, options: [changed, not lost but broken] }\n  - { key: backup, phase: after, on: new, title: Ongoing backup is set up and has run once, kind: tick }\n  - { key: looked, phase: after, title: Person has looked and knows what is missing, kind: confirmation, marks: accepted }\n','\n',char(10)),10,1795986107829179);
INSERT INTO Templates VALUES('spring','Set up afresh',1,replace('name: Set up afresh\nkinds: [reimage]\nsteps:\n  - { key: told, phase: before, title: Person has been told when and what, kind: confirmation, marks: told, help: The computer is away while it is set up. Name the hours. }\n  - { key: ready, phase: before, title: Person says that everything they know of is staged or named, kind: confirmation, who: person }\n  - { key: old-tag, phase: swap, title: Right computer, kind: scan, expects: old, help: This very computer will be emptied. }\n  - { key: programs-closed, phase: swap, title: Programs are closed, kind: tick, who: person }\n  - { key: closing, phase: swap, title: Closing trip is done, kind: automatic, fact: closing-trip-done }\n  - { key: staged, phase: swap, title: All files staged and verified, kind: automatic, fact: staged-and-verified }\n  - { key: second-look, phase: swap, title: The parcel was verified in a second way, kind: choice, options: [restore sample, second copy], help: Only what is proven twice is a reason to empty the only computer that has it. }\n  - { key: set-up, phase: swap, title: System is set up afresh, kind: timed, marks: swapped }\n  - { key: updates, phase: swap, title: "System, maker and program shop are up to date", kind: again, until: "nothing more is offered, and no restart is asked for" }\n  - { key: new-tag, phase: after, title: Right computer comes back, kind: scan, expects: new }\n  - { key: restored, phase: after, title: All files restored and verified, kind: automatic, fact: restored-and-verified }\n  - { key: restarted, phase: after, title: Computer restarts with everything in place, kind: restart }\n  - { key: one-library, phase: after, title: "Only one photo, music and mail library of each kind", kind: tick }\n  - { key: opened, phase: after, title: Libraries are opened and show their content, kind: timed }\n  - { key: backup, phase: after, title: Ongoing backup taken over and has run once, kind: tick }\n  - { key: looked, phase: after, title: Person has looked and is content, kind: confirmation, marks: accepted }\n','\n',char(10)),16,1795986107829179);
CREATE TABLE IF NOT EXISTS "Tokens" (
    "Sha256" TEXT NOT NULL CONSTRAINT "PK_Tokens" PRIMARY KEY,
    "Account" TEXT NULL,
    "Hand" TEXT NULL,
    "Label" TEXT NOT NULL,
    "Expires" INTEGER NOT NULL
);
INSERT INTO Tokens VALUES('1fbc3ffaa731f1639de44f90fb55476e8da3bf15f6a8e28bdff3c06370f0690a','kit',NULL,'yardline on vm',1798578107086855);
CREATE TABLE IF NOT EXISTS "Closures" (
    "Refresh" TEXT NOT NULL,
    "Key" TEXT NOT NULL,
    "Name" TEXT NOT NULL,
    "Site" TEXT NULL,
    "At" TEXT NOT NULL,
    CONSTRAINT "PK_Closures" PRIMARY KEY ("Refresh", "Key")
);
CREATE TABLE IF NOT EXISTS "Columns" (
    "Refresh" TEXT NOT NULL,
    "Head" TEXT NOT NULL,
    "Column" TEXT NOT NULL,
    CONSTRAINT "PK_Columns" PRIMARY KEY ("Refresh", "Head")
);
CREATE TABLE IF NOT EXISTS "Deliveries" (
    "Refresh" TEXT NOT NULL,
    "Key" TEXT NOT NULL,
    "Name" TEXT NOT NULL,
    "Arrives" TEXT NOT NULL,
    "Tags" TEXT NOT NULL,
    CONSTRAINT "PK_Deliveries" PRIMARY KEY ("Refresh", "Key")
);
CREATE TABLE IF NOT EXISTS "Estimates" (
    "Refresh" TEXT NOT NULL,
    "Scope" TEXT NOT NULL,
    "Of" TEXT NOT NULL,
    "BeforeMinutes" INTEGER NULL,
    "UnattendedMinutes" INTEGER NULL,
    "AfterMinutes" INTEGER NULL,
    "HasBench" INTEGER NOT NULL,
    "BenchSite" TEXT NULL,
    "BenchHandsOnMinutes" INTEGER NOT NULL,
    "BenchUnattendedMinutes" INTEGER NOT NULL,
    "BenchGapMinutes" INTEGER NOT NULL,
    CONSTRAINT "PK_Estimates" PRIMARY KEY ("Refresh", "Scope", "Of")
);
CREATE TABLE IF NOT EXISTS "Plans" (
    "Refresh" TEXT NOT NULL,
    "Number" INTEGER NOT NULL,
    "State" TEXT NOT NULL,
    "Version" INTEGER NOT NULL,
    "BasedOn" INTEGER NOT NULL,
    "MadeBy" TEXT NOT NULL,
    "MadeAt" INTEGER NOT NULL,
    "PublishedBy" TEXT NULL,
    "PublishedAt" INTEGER NULL,
    "Placed" INTEGER NOT NULL,
    "LeftOut" INTEGER NOT NULL,
    "Cost" INTEGER NOT NULL,
    "Body" TEXT NOT NULL,
    "Moves" TEXT NOT NULL,
    CONSTRAINT "PK_Plans" PRIMARY KEY ("Refresh", "Number")
);
INSERT INTO Plans VALUES('spring',1,'published',1,0,'kit',1795986111925861,'kit',1795986113085938,3,0,6,replace('{\n  "placed": [\n    {\n      "id": "spring-0001",\n      "technician": "noor",\n      "start": 510,\n      "finish": 555\n    },\n    {\n      "id": "spring-0002",\n      "technician": "noor",\n      "start": 570,\n      "finish": 615\n    },\n    {\n      "id": "spring-0003",\n      "technician": "noor",\n      "start": 480,\n      "finish": 495\n    }\n  ],\n  "unplaced": []\n}','\n',char(10)),'[]');
CREATE TABLE IF NOT EXISTS "Takings" (
    "Refresh" TEXT NOT NULL,
    "Number" INTEGER NOT NULL,
    "By" TEXT NOT NULL,
    "At" INTEGER NOT NULL,
    "Added" INTEGER NOT NULL,
    "Changed" INTEGER NOT NULL,
    "Before" TEXT NOT NULL,
    "UndoneAt" INTEGER NULL,
    CONSTRAINT "PK_Takings" PRIMARY KEY ("Refresh", "Number")
);
INSERT INTO Takings VALUES('spring',1,'kit',1795986108724007,3,0,'{"Added":["spring-0001","spring-0002","spring-0003"],"Changed":{},"Dropped":[],"People":[],"NewPeople":["k1","k2","k3"],"NewSites":["North Quay","Lantern Point"]}',NULL);
CREATE TABLE IF NOT EXISTS "Waves" (
    "Refresh" TEXT NOT NULL,
    "Key" TEXT NOT NULL,
    "Name" TEXT NOT NULL,
    "From" TEXT NOT NULL,
    "Until" TEXT NOT NULL,
    CONSTRAINT "PK_Waves" PRIMARY KEY ("Refresh", "Key")
);
CREATE TABLE IF NOT EXISTS "Ways" (
    "Refresh" TEXT NOT NULL,
    "From" TEXT NOT NULL,
    "To" TEXT NOT NULL,
    "Minutes" INTEGER NOT NULL,
    CONSTRAINT "PK_Ways" PRIMARY KEY ("Refresh", "From", "To")
);
CREATE TABLE IF NOT EXISTS "Cargo" (
    "Swap" TEXT NOT NULL CONSTRAINT "PK_Cargo" PRIMARY KEY,
    "Inventory" TEXT NULL,
    "CarryList" TEXT NULL
, "Landing" TEXT NULL, "LeftOutBy" TEXT NULL, "ParcelKey" TEXT NULL, "NewComputer" TEXT NULL, "Passphrase" TEXT NULL, "PassphraseAt" INTEGER NULL);
CREATE TABLE IF NOT EXISTS "Catalogue" (
    "Refresh" TEXT NOT NULL,
    "Key" TEXT NOT NULL,
    "Program" TEXT NOT NULL,
    "Offer" TEXT NOT NULL,
    "Where" TEXT NULL,
    "IsLicenceBound" INTEGER NOT NULL,
    CONSTRAINT "PK_Catalogue" PRIMARY KEY ("Refresh", "Key")
);
CREATE TABLE IF NOT EXISTS "Custody" (
    "Id" TEXT NOT NULL CONSTRAINT "PK_Custody" PRIMARY KEY,
    "Refresh" TEXT NOT NULL,
    "Tag" TEXT NOT NULL,
    "Act" TEXT NOT NULL,
    "Where" TEXT NOT NULL,
    "By" TEXT NOT NULL,
    "At" INTEGER NOT NULL,
    "Recorded" INTEGER NOT NULL
);
CREATE TABLE IF NOT EXISTS "FollowUps" (
    "Id" TEXT NOT NULL CONSTRAINT "PK_FollowUps" PRIMARY KEY,
    "Refresh" TEXT NOT NULL,
    "Swap" TEXT NOT NULL,
    "Words" TEXT NOT NULL,
    "Owner" TEXT NOT NULL,
    "Due" INTEGER NOT NULL,
    "Holds" TEXT NOT NULL,
    "Cause" TEXT NOT NULL,
    "MadeBy" TEXT NOT NULL,
    "MadeAt" INTEGER NOT NULL,
    "DoneBy" TEXT NULL,
    "DoneAt" INTEGER NULL,
    "Outcome" TEXT NULL
, "VisitEnd" INTEGER NULL, "VisitMinutes" INTEGER NULL, "VisitStart" INTEGER NULL, "VisitTechnician" TEXT NULL);
CREATE TABLE IF NOT EXISTS "Handovers" (
    "Id" TEXT NOT NULL CONSTRAINT "PK_Handovers" PRIMARY KEY,
    "Refresh" TEXT NOT NULL,
    "Swap" TEXT NOT NULL,
    "From" TEXT NOT NULL,
    "To" TEXT NOT NULL,
    "Note" TEXT NOT NULL,
    "By" TEXT NOT NULL,
    "At" INTEGER NOT NULL
);
CREATE TABLE IF NOT EXISTS "OldComputers" (
    "Refresh" TEXT NOT NULL,
    "Tag" TEXT NOT NULL,
    "Swap" TEXT NOT NULL,
    "Holder" TEXT NULL,
    "Place" TEXT NULL,
    "Pallet" TEXT NULL,
    "MovedAt" INTEGER NULL,
    "End" TEXT NULL,
    "EndedTo" TEXT NULL,
    "WipeMethod" TEXT NULL,
    "WipeResult" TEXT NULL,
    "WipeEvidence" TEXT NULL,
    "WipedBy" TEXT NULL,
    "WipedAt" INTEGER NULL,
    CONSTRAINT "PK_OldComputers" PRIMARY KEY ("Refresh", "Tag")
);
CREATE TABLE IF NOT EXISTS "Detours" (
    "Id" TEXT NOT NULL CONSTRAINT "PK_Detours" PRIMARY KEY,
    "Refresh" TEXT NOT NULL,
    "Swap" TEXT NOT NULL,
    "Kind" TEXT NOT NULL,
    "Words" TEXT NOT NULL,
    "By" TEXT NOT NULL,
    "At" INTEGER NOT NULL
);
CREATE TABLE IF NOT EXISTS "Photos" (
    "Sha256" TEXT NOT NULL,
    "Swap" TEXT NOT NULL,
    "Step" TEXT NOT NULL,
    "Kind" TEXT NOT NULL,
    "Width" INTEGER NOT NULL,
    "Height" INTEGER NOT NULL,
    "Content" BLOB NOT NULL,
    "By" TEXT NOT NULL,
    "At" INTEGER NOT NULL,
    CONSTRAINT "PK_Photos" PRIMARY KEY ("Swap", "Step", "Sha256")
);
CREATE TABLE IF NOT EXISTS "Spares" (
    "Refresh" TEXT NOT NULL,
    "Key" TEXT NOT NULL,
    "Model" TEXT NULL,
    "Site" TEXT NOT NULL,
    "Trouble" TEXT NULL,
    CONSTRAINT "PK_Spares" PRIMARY KEY ("Refresh", "Key")
);
CREATE TABLE IF NOT EXISTS "LinkRefusals" (
    "Day" TEXT NOT NULL,
    "Cause" TEXT NOT NULL,
    "Count" INTEGER NOT NULL,
    CONSTRAINT "PK_LinkRefusals" PRIMARY KEY ("Day", "Cause")
);
CREATE TABLE IF NOT EXISTS "Links" (
    "Sha256" TEXT NOT NULL CONSTRAINT "PK_Links" PRIMARY KEY,
    "Refresh" TEXT NOT NULL,
    "Swap" TEXT NOT NULL,
    "MadeBy" TEXT NOT NULL,
    "MadeAt" INTEGER NOT NULL,
    "Expires" INTEGER NOT NULL,
    "WithdrawnAt" INTEGER NULL,
    "OpenedAt" INTEGER NULL,
    "SeenAt" INTEGER NULL
);
CREATE TABLE IF NOT EXISTS "NoticeTexts" (
    "Refresh" TEXT NOT NULL,
    "Moment" TEXT NOT NULL,
    "Language" TEXT NOT NULL,
    "Text" TEXT NOT NULL,
    CONSTRAINT "PK_NoticeTexts" PRIMARY KEY ("Refresh", "Moment", "Language")
);
CREATE TABLE IF NOT EXISTS "Notices" (
    "Id" TEXT NOT NULL CONSTRAINT "PK_Notices" PRIMARY KEY,
    "Refresh" TEXT NOT NULL,
    "Swap" TEXT NOT NULL,
    "Key" TEXT NOT NULL,
    "Moment" TEXT NOT NULL,
    "Language" TEXT NOT NULL,
    "To" TEXT NOT NULL,
    "Subject" TEXT NOT NULL,
    "Start" INTEGER NULL,
    "MadeAt" INTEGER NOT NULL,
    "LastUseful" INTEGER NOT NULL,
    "TryAt" INTEGER NULL,
    "HandedAt" INTEGER NULL,
    "Tries" INTEGER NOT NULL,
    "SentAt" INTEGER NULL,
    "BouncedAt" INTEGER NULL,
    "Trouble" TEXT NULL,
    "Link" TEXT NULL
);
CREATE TABLE IF NOT EXISTS "Exchanges" (
    "Id" TEXT NOT NULL CONSTRAINT "PK_Exchanges" PRIMARY KEY,
    "Refresh" TEXT NOT NULL,
    "Asks" TEXT NOT NULL,
    "AsksStart" INTEGER NOT NULL,
    "Asked" TEXT NOT NULL,
    "AskedStart" INTEGER NOT NULL,
    "At" INTEGER NOT NULL,
    "End" TEXT NULL,
    "EndedAt" INTEGER NULL
);
CREATE TABLE IF NOT EXISTS "Groups" (
    "Refresh" TEXT NOT NULL,
    "Key" TEXT NOT NULL,
    "Name" TEXT NOT NULL,
    "Swaps" TEXT NOT NULL,
    "AtOnce" INTEGER NULL,
    "OneDay" INTEGER NOT NULL,
    CONSTRAINT "PK_Groups" PRIMARY KEY ("Refresh", "Key")
);
CREATE TABLE IF NOT EXISTS "Waits" (
    "Swap" TEXT NOT NULL CONSTRAINT "PK_Waits" PRIMARY KEY,
    "Refresh" TEXT NOT NULL,
    "From" INTEGER NOT NULL,
    "Until" INTEGER NOT NULL,
    "At" INTEGER NOT NULL
);
DELETE FROM sqlite_sequence;
INSERT INTO sqlite_sequence VALUES('DataProtectionKeys',1);
CREATE INDEX "IX_Answers_At" ON "Answers" ("At");
CREATE INDEX "IX_Hands_Refresh_Tag" ON "Hands" ("Refresh", "Tag");
CREATE INDEX "IX_Ledger_Swap_Number" ON "Ledger" ("Swap", "Number");
CREATE INDEX "IX_Orders_Refresh_Tag_State" ON "Orders" ("Refresh", "Tag", "State");
CREATE INDEX "IX_Orders_Swap_MadeAt" ON "Orders" ("Swap", "MadeAt");
CREATE INDEX "IX_Snags_Refresh_End" ON "Snags" ("Refresh", "End");
CREATE INDEX "IX_Snags_Swap_End" ON "Snags" ("Swap", "End");
CREATE INDEX "IX_Swaps_Refresh_Name_Id" ON "Swaps" ("Refresh", "Name", "Id");
CREATE UNIQUE INDEX "IX_Swaps_Refresh_RosterKey" ON "Swaps" ("Refresh", "RosterKey");
CREATE INDEX "IX_Swaps_Refresh_Start" ON "Swaps" ("Refresh", "Start");
CREATE INDEX "IX_Custody_Refresh_Tag_At" ON "Custody" ("Refresh", "Tag", "At");
CREATE INDEX "IX_FollowUps_Refresh_DoneAt_Due" ON "FollowUps" ("Refresh", "DoneAt", "Due");
CREATE INDEX "IX_FollowUps_Swap_DoneAt" ON "FollowUps" ("Swap", "DoneAt");
CREATE INDEX "IX_Handovers_Swap_At" ON "Handovers" ("Swap", "At");
CREATE INDEX "IX_OldComputers_Refresh_Pallet" ON "OldComputers" ("Refresh", "Pallet");
CREATE INDEX "IX_OldComputers_Swap" ON "OldComputers" ("Swap");
CREATE INDEX "IX_Swaps_Refresh_Site_Kind_Next_Wave_Technician_Start_End_AcceptedAt_CalledOffAt" ON "Swaps" ("Refresh", "Site", "Kind", "Next", "Wave", "Technician", "Start", "End", "AcceptedAt", "CalledOffAt");
CREATE INDEX "IX_Detours_Swap_At" ON "Detours" ("Swap", "At");
CREATE INDEX "IX_Links_Swap_MadeAt" ON "Links" ("Swap", "MadeAt");
CREATE INDEX "IX_Notices_Refresh_TryAt" ON "Notices" ("Refresh", "TryAt");
CREATE UNIQUE INDEX "IX_Notices_Swap_Key" ON "Notices" ("Swap", "Key");
CREATE INDEX "IX_Exchanges_Asked_End" ON "Exchanges" ("Asked", "End");
CREATE INDEX "IX_Exchanges_Asks_End" ON "Exchanges" ("Asks", "End");
CREATE INDEX "IX_Waits_Refresh_At" ON "Waits" ("Refresh", "At");
CREATE INDEX "IX_Swaps_LeftOut" ON "Swaps" ("Refresh") WHERE "LeftOutBecause" IS NOT NULL;
CREATE INDEX "IX_Swaps_Refresh_End" ON "Swaps" ("Refresh", "End") WHERE "SwappedAt" IS NULL AND "AcceptedAt" IS NULL;
CREATE INDEX "IX_Swaps_Refresh_RestoredAt" ON "Swaps" ("Refresh", "RestoredAt") WHERE "RestoredAt" IS NOT NULL AND "AcceptedAt" IS NULL;
CREATE INDEX "IX_Orders_Refresh_State_Swap" ON "Orders" ("Refresh", "State", "Swap");
COMMIT;
