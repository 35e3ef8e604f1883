CREATE TABLE `channel_entry` (
	`feed` varchar(190) NOT NULL,
	`sku` varchar(190) NOT NULL,
	`entries` json NOT NULL,
	`asked_at` datetime(3),
	`trouble` varchar(300),
	CONSTRAINT `channel_entry_feed_sku_pk` PRIMARY KEY(`feed`,`sku`)
);
--> statement-breakpoint
CREATE TABLE `channel_entry_not` (
	`feed` varchar(190) NOT NULL,
	`sku` varchar(190) NOT NULL,
	`entry` varchar(100) NOT NULL,
	CONSTRAINT `channel_entry_not_feed_sku_entry_pk` PRIMARY KEY(`feed`,`sku`,`entry`)
);
--> statement-breakpoint
CREATE INDEX `channel_entry_asked` ON `channel_entry` (`feed`,`asked_at`);