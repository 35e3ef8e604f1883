CREATE TABLE `partner_pair` (
	`range_code` varchar(190) NOT NULL,
	`sku` varchar(190) NOT NULL,
	`variant` varchar(190) NOT NULL,
	`same` boolean NOT NULL,
	`by_hand` boolean NOT NULL,
	CONSTRAINT `partner_pair_range_code_sku_variant_pk` PRIMARY KEY(`range_code`,`sku`,`variant`)
);
--> statement-breakpoint
CREATE TABLE `partner_range` (
	`code` varchar(190) NOT NULL,
	`name` varchar(200) NOT NULL,
	`mapping` json NOT NULL,
	`brought_at` datetime(3) NOT NULL,
	CONSTRAINT `partner_range_code` PRIMARY KEY(`code`)
);
--> statement-breakpoint
CREATE TABLE `partner_variant` (
	`range_code` varchar(190) NOT NULL,
	`code` varchar(190) NOT NULL,
	`own_values` json NOT NULL,
	`position` int NOT NULL,
	CONSTRAINT `partner_variant_range_code_code_pk` PRIMARY KEY(`range_code`,`code`)
);
