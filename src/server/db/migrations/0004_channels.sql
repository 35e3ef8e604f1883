CREATE TABLE `sheet_version` (
	`channel` varchar(190) NOT NULL,
	`version` int NOT NULL,
	`sheet` json NOT NULL,
	`taxonomy` longtext NOT NULL,
	`bundled` boolean NOT NULL,
	`revision` int NOT NULL,
	`taken_on_at` datetime(3),
	`created_at` datetime(3) NOT NULL,
	CONSTRAINT `sheet_version_channel_version_pk` PRIMARY KEY(`channel`,`version`)
);
