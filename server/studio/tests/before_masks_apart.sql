-- Made by the program as it was before masks were kept apart: schema and rows, as it wrote them.;

SET FOREIGN_KEY_CHECKS = 0;

CREATE TABLE `accounts_user` (
  `id` bigint(20) NOT NULL AUTO_INCREMENT,
  `password` varchar(128) NOT NULL,
  `last_login` datetime(6) DEFAULT NULL,
  `is_superuser` tinyint(1) NOT NULL,
  `username` varchar(150) NOT NULL,
  `first_name` varchar(150) NOT NULL,
  `last_name` varchar(150) NOT NULL,
  `email` varchar(254) NOT NULL,
  `is_staff` tinyint(1) NOT NULL,
  `is_active` tinyint(1) NOT NULL,
  `date_joined` datetime(6) NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `username` (`username`)
) ENGINE=InnoDB AUTO_INCREMENT=3 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci;

CREATE TABLE `accounts_user_groups` (
  `id` bigint(20) NOT NULL AUTO_INCREMENT,
  `user_id` bigint(20) NOT NULL,
  `group_id` int(11) NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `accounts_user_groups_user_id_group_id_59c0b32f_uniq` (`user_id`,`group_id`),
  KEY `accounts_user_groups_group_id_bd11a704_fk_auth_group_id` (`group_id`),
  CONSTRAINT `accounts_user_groups_group_id_bd11a704_fk_auth_group_id` FOREIGN KEY (`group_id`) REFERENCES `auth_group` (`id`),
  CONSTRAINT `accounts_user_groups_user_id_52b62117_fk_accounts_user_id` FOREIGN KEY (`user_id`) REFERENCES `accounts_user` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci;

CREATE TABLE `accounts_user_user_permissions` (
  `id` bigint(20) NOT NULL AUTO_INCREMENT,
  `user_id` bigint(20) NOT NULL,
  `permission_id` int(11) NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `accounts_user_user_permi_user_id_permission_id_2ab516c2_uniq` (`user_id`,`permission_id`),
  KEY `accounts_user_user_p_permission_id_113bb443_fk_auth_perm` (`permission_id`),
  CONSTRAINT `accounts_user_user_p_permission_id_113bb443_fk_auth_perm` FOREIGN KEY (`permission_id`) REFERENCES `auth_permission` (`id`),
  CONSTRAINT `accounts_user_user_p_user_id_e4f0a161_fk_accounts_` FOREIGN KEY (`user_id`) REFERENCES `accounts_user` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci;

CREATE TABLE `auth_group` (
  `id` int(11) NOT NULL AUTO_INCREMENT,
  `name` varchar(150) NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `name` (`name`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci;

CREATE TABLE `auth_group_permissions` (
  `id` bigint(20) NOT NULL AUTO_INCREMENT,
  `group_id` int(11) NOT NULL,
  `permission_id` int(11) NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `auth_group_permissions_group_id_permission_id_0cd325b0_uniq` (`group_id`,`permission_id`),
  KEY `auth_group_permissio_permission_id_84c5c92e_fk_auth_perm` (`permission_id`),
  CONSTRAINT `auth_group_permissio_permission_id_84c5c92e_fk_auth_perm` FOREIGN KEY (`permission_id`) REFERENCES `auth_permission` (`id`),
  CONSTRAINT `auth_group_permissions_group_id_b120cbf9_fk_auth_group_id` FOREIGN KEY (`group_id`) REFERENCES `auth_group` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci;

CREATE TABLE `auth_permission` (
  `id` int(11) NOT NULL AUTO_INCREMENT,
  `name` varchar(255) NOT NULL,
  `content_type_id` int(11) NOT NULL,
  `codename` varchar(100) NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `auth_permission_content_type_id_codename_01ab375a_uniq` (`content_type_id`,`codename`),
  CONSTRAINT `auth_permission_content_type_id_2f476e4b_fk_django_co` FOREIGN KEY (`content_type_id`) REFERENCES `django_content_type` (`id`)
) ENGINE=InnoDB AUTO_INCREMENT=61 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci;

CREATE TABLE `delivery_delivery` (
  `id` uuid NOT NULL,
  `revision` int(11) NOT NULL,
  `file_format` varchar(8) NOT NULL,
  `name` varchar(255) NOT NULL,
  `size_bytes` bigint(20) NOT NULL,
  `unchanged` double DEFAULT NULL,
  `made` datetime(6) NOT NULL,
  `photo_id` bigint(20) NOT NULL,
  PRIMARY KEY (`id`),
  KEY `delivery_delivery_photo_id_0a620ea4_fk_shoots_photo_id` (`photo_id`),
  CONSTRAINT `delivery_delivery_photo_id_0a620ea4_fk_shoots_photo_id` FOREIGN KEY (`photo_id`) REFERENCES `shoots_photo` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci;

CREATE TABLE `django_content_type` (
  `id` int(11) NOT NULL AUTO_INCREMENT,
  `app_label` varchar(100) NOT NULL,
  `model` varchar(100) NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `django_content_type_app_label_model_76bd3d3b_uniq` (`app_label`,`model`)
) ENGINE=InnoDB AUTO_INCREMENT=16 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci;

CREATE TABLE `django_migrations` (
  `id` bigint(20) NOT NULL AUTO_INCREMENT,
  `app` varchar(255) NOT NULL,
  `name` varchar(255) NOT NULL,
  `applied` datetime(6) NOT NULL,
  PRIMARY KEY (`id`)
) ENGINE=InnoDB AUTO_INCREMENT=25 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci;

CREATE TABLE `django_session` (
  `session_key` varchar(40) NOT NULL,
  `session_data` longtext NOT NULL,
  `expire_date` datetime(6) NOT NULL,
  PRIMARY KEY (`session_key`),
  KEY `django_session_expire_date_a5c62663` (`expire_date`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci;

CREATE TABLE `keys_keptkey` (
  `id` bigint(20) NOT NULL AUTO_INCREMENT,
  `name` varchar(60) NOT NULL,
  `document` longtext NOT NULL,
  `made` datetime(6) NOT NULL,
  `owner_id` bigint(20) NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `one_key_of_a_name` (`owner_id`,`name`),
  CONSTRAINT `keys_keptkey_owner_id_29ba14b2_fk_accounts_user_id` FOREIGN KEY (`owner_id`) REFERENCES `accounts_user` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci;

CREATE TABLE `references_keptreference` (
  `id` bigint(20) NOT NULL AUTO_INCREMENT,
  `name` varchar(80) NOT NULL,
  `group` varchar(8) NOT NULL,
  `lightness` double NOT NULL,
  `a` double NOT NULL,
  `b` double NOT NULL,
  `note` varchar(200) NOT NULL,
  `made` datetime(6) NOT NULL,
  `owner_id` bigint(20) NOT NULL,
  `shoot_id` bigint(20) DEFAULT NULL,
  PRIMARY KEY (`id`),
  KEY `references_keptreference_owner_id_dd44ddda_fk_accounts_user_id` (`owner_id`),
  KEY `references_keptreference_shoot_id_1b7a733e_fk_shoots_shoot_id` (`shoot_id`),
  CONSTRAINT `references_keptreference_owner_id_dd44ddda_fk_accounts_user_id` FOREIGN KEY (`owner_id`) REFERENCES `accounts_user` (`id`),
  CONSTRAINT `references_keptreference_shoot_id_1b7a733e_fk_shoots_shoot_id` FOREIGN KEY (`shoot_id`) REFERENCES `shoots_shoot` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci;

CREATE TABLE `shoots_photo` (
  `id` bigint(20) NOT NULL AUTO_INCREMENT,
  `title` varchar(200) NOT NULL,
  `caption` longtext NOT NULL,
  `file_name` varchar(255) NOT NULL,
  `content_hash` varchar(64) NOT NULL,
  `size_bytes` bigint(20) NOT NULL,
  `width` int(11) NOT NULL,
  `height` int(11) NOT NULL,
  `file_format` varchar(8) NOT NULL,
  `bits` smallint(6) NOT NULL,
  `profile` varchar(200) NOT NULL,
  `notes` longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL CHECK (json_valid(`notes`)),
  `added` datetime(6) NOT NULL,
  `revision` int(11) NOT NULL,
  `shoot_id` bigint(20) NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `once_per_shoot` (`shoot_id`,`content_hash`),
  KEY `shoots_photo_content_hash_33f17940` (`content_hash`),
  CONSTRAINT `shoots_photo_shoot_id_72cb1353_fk_shoots_shoot_id` FOREIGN KEY (`shoot_id`) REFERENCES `shoots_shoot` (`id`)
) ENGINE=InnoDB AUTO_INCREMENT=3 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci;

CREATE TABLE `shoots_shoot` (
  `id` bigint(20) NOT NULL AUTO_INCREMENT,
  `name` varchar(120) NOT NULL,
  `made` datetime(6) NOT NULL,
  `owner_id` bigint(20) NOT NULL,
  PRIMARY KEY (`id`),
  KEY `shoots_shoot_owner_id_8ddb5783_fk_accounts_user_id` (`owner_id`),
  CONSTRAINT `shoots_shoot_owner_id_8ddb5783_fk_accounts_user_id` FOREIGN KEY (`owner_id`) REFERENCES `accounts_user` (`id`)
) ENGINE=InnoDB AUTO_INCREMENT=2 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci;

CREATE TABLE `studio_keptpaper` (
  `id` bigint(20) NOT NULL AUTO_INCREMENT,
  `state` varchar(64) NOT NULL,
  `made` datetime(6) NOT NULL,
  `pdf` longblob NOT NULL,
  `photo_id` bigint(20) NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `photo_id` (`photo_id`),
  CONSTRAINT `studio_keptpaper_photo_id_3389c7a4_fk_shoots_photo_id` FOREIGN KEY (`photo_id`) REFERENCES `shoots_photo` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci;

CREATE TABLE `studio_keptsheet` (
  `id` bigint(20) NOT NULL AUTO_INCREMENT,
  `state` varchar(64) NOT NULL,
  `made` datetime(6) NOT NULL,
  `document` longtext NOT NULL,
  `photo_id` bigint(20) NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `photo_id` (`photo_id`),
  CONSTRAINT `studio_keptsheet_photo_id_a83765cc_fk_shoots_photo_id` FOREIGN KEY (`photo_id`) REFERENCES `shoots_photo` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci;

CREATE TABLE `studio_keptsurvey` (
  `id` bigint(20) NOT NULL AUTO_INCREMENT,
  `document` longtext NOT NULL,
  `made` datetime(6) NOT NULL,
  `photo_id` bigint(20) NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `photo_id` (`photo_id`),
  CONSTRAINT `studio_keptsurvey_photo_id_4d149cbc_fk_shoots_photo_id` FOREIGN KEY (`photo_id`) REFERENCES `shoots_photo` (`id`)
) ENGINE=InnoDB AUTO_INCREMENT=2 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci;

CREATE TABLE `studio_revision` (
  `id` bigint(20) NOT NULL AUTO_INCREMENT,
  `number` int(11) NOT NULL,
  `document` longtext NOT NULL,
  `undo_to` int(11) DEFAULT NULL,
  `redo_to` int(11) DEFAULT NULL,
  `figures` longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin DEFAULT NULL CHECK (json_valid(`figures`)),
  `made` datetime(6) NOT NULL,
  `author_id` bigint(20) DEFAULT NULL,
  `photo_id` bigint(20) NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `one_number_per_photo` (`photo_id`,`number`),
  KEY `studio_revision_author_id_86ab6a42_fk_accounts_user_id` (`author_id`),
  CONSTRAINT `studio_revision_author_id_86ab6a42_fk_accounts_user_id` FOREIGN KEY (`author_id`) REFERENCES `accounts_user` (`id`),
  CONSTRAINT `studio_revision_photo_id_d3b47d86_fk_shoots_photo_id` FOREIGN KEY (`photo_id`) REFERENCES `shoots_photo` (`id`)
) ENGINE=InnoDB AUTO_INCREMENT=7 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci;

CREATE TABLE `studio_version` (
  `id` bigint(20) NOT NULL AUTO_INCREMENT,
  `name` varchar(80) NOT NULL,
  `document` longtext NOT NULL,
  `made` datetime(6) NOT NULL,
  `author_id` bigint(20) DEFAULT NULL,
  `photo_id` bigint(20) NOT NULL,
  PRIMARY KEY (`id`),
  KEY `studio_version_author_id_9b5af130_fk_accounts_user_id` (`author_id`),
  KEY `studio_version_photo_id_64a888ed_fk_shoots_photo_id` (`photo_id`),
  CONSTRAINT `studio_version_author_id_9b5af130_fk_accounts_user_id` FOREIGN KEY (`author_id`) REFERENCES `accounts_user` (`id`),
  CONSTRAINT `studio_version_photo_id_64a888ed_fk_shoots_photo_id` FOREIGN KEY (`photo_id`) REFERENCES `shoots_photo` (`id`)
) ENGINE=InnoDB AUTO_INCREMENT=3 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci;

INSERT INTO `accounts_user` VALUES (1, 'md5$ZzCgEcFsnKfyhRfhJdwkGp$83cacd925c117940e9c47d57ace16eae', '2026-11-26 23:23:24.479037', 0, 'ida', '', '', '', 0, 1, '2026-11-26 23:23:24.466789');

INSERT INTO `accounts_user` VALUES (2, 'md5$cg8HZhgOQBKaBPhzoWXel6$db43f0a925d64a61d320f58f724ce26d', NULL, 0, 'otto', '', '', '', 0, 1, '2026-11-26 23:23:24.468366');

INSERT INTO `auth_permission` VALUES (1, 'Can add permission', 1, 'add_permission');

INSERT INTO `auth_permission` VALUES (2, 'Can change permission', 1, 'change_permission');

INSERT INTO `auth_permission` VALUES (3, 'Can delete permission', 1, 'delete_permission');

INSERT INTO `auth_permission` VALUES (4, 'Can view permission', 1, 'view_permission');

INSERT INTO `auth_permission` VALUES (5, 'Can add group', 2, 'add_group');

INSERT INTO `auth_permission` VALUES (6, 'Can change group', 2, 'change_group');

INSERT INTO `auth_permission` VALUES (7, 'Can delete group', 2, 'delete_group');

INSERT INTO `auth_permission` VALUES (8, 'Can view group', 2, 'view_group');

INSERT INTO `auth_permission` VALUES (9, 'Can add content type', 3, 'add_contenttype');

INSERT INTO `auth_permission` VALUES (10, 'Can change content type', 3, 'change_contenttype');

INSERT INTO `auth_permission` VALUES (11, 'Can delete content type', 3, 'delete_contenttype');

INSERT INTO `auth_permission` VALUES (12, 'Can view content type', 3, 'view_contenttype');

INSERT INTO `auth_permission` VALUES (13, 'Can add session', 4, 'add_session');

INSERT INTO `auth_permission` VALUES (14, 'Can change session', 4, 'change_session');

INSERT INTO `auth_permission` VALUES (15, 'Can delete session', 4, 'delete_session');

INSERT INTO `auth_permission` VALUES (16, 'Can view session', 4, 'view_session');

INSERT INTO `auth_permission` VALUES (17, 'Can add user', 5, 'add_user');

INSERT INTO `auth_permission` VALUES (18, 'Can change user', 5, 'change_user');

INSERT INTO `auth_permission` VALUES (19, 'Can delete user', 5, 'delete_user');

INSERT INTO `auth_permission` VALUES (20, 'Can view user', 5, 'view_user');

INSERT INTO `auth_permission` VALUES (21, 'Can add shoot', 6, 'add_shoot');

INSERT INTO `auth_permission` VALUES (22, 'Can change shoot', 6, 'change_shoot');

INSERT INTO `auth_permission` VALUES (23, 'Can delete shoot', 6, 'delete_shoot');

INSERT INTO `auth_permission` VALUES (24, 'Can view shoot', 6, 'view_shoot');

INSERT INTO `auth_permission` VALUES (25, 'Can add photo', 7, 'add_photo');

INSERT INTO `auth_permission` VALUES (26, 'Can change photo', 7, 'change_photo');

INSERT INTO `auth_permission` VALUES (27, 'Can delete photo', 7, 'delete_photo');

INSERT INTO `auth_permission` VALUES (28, 'Can view photo', 7, 'view_photo');

INSERT INTO `auth_permission` VALUES (29, 'Can add revision', 8, 'add_revision');

INSERT INTO `auth_permission` VALUES (30, 'Can change revision', 8, 'change_revision');

INSERT INTO `auth_permission` VALUES (31, 'Can delete revision', 8, 'delete_revision');

INSERT INTO `auth_permission` VALUES (32, 'Can view revision', 8, 'view_revision');

INSERT INTO `auth_permission` VALUES (33, 'Can add kept survey', 9, 'add_keptsurvey');

INSERT INTO `auth_permission` VALUES (34, 'Can change kept survey', 9, 'change_keptsurvey');

INSERT INTO `auth_permission` VALUES (35, 'Can delete kept survey', 9, 'delete_keptsurvey');

INSERT INTO `auth_permission` VALUES (36, 'Can view kept survey', 9, 'view_keptsurvey');

INSERT INTO `auth_permission` VALUES (37, 'Can add version', 10, 'add_version');

INSERT INTO `auth_permission` VALUES (38, 'Can change version', 10, 'change_version');

INSERT INTO `auth_permission` VALUES (39, 'Can delete version', 10, 'delete_version');

INSERT INTO `auth_permission` VALUES (40, 'Can view version', 10, 'view_version');

INSERT INTO `auth_permission` VALUES (41, 'Can add kept paper', 11, 'add_keptpaper');

INSERT INTO `auth_permission` VALUES (42, 'Can change kept paper', 11, 'change_keptpaper');

INSERT INTO `auth_permission` VALUES (43, 'Can delete kept paper', 11, 'delete_keptpaper');

INSERT INTO `auth_permission` VALUES (44, 'Can view kept paper', 11, 'view_keptpaper');

INSERT INTO `auth_permission` VALUES (45, 'Can add kept sheet', 12, 'add_keptsheet');

INSERT INTO `auth_permission` VALUES (46, 'Can change kept sheet', 12, 'change_keptsheet');

INSERT INTO `auth_permission` VALUES (47, 'Can delete kept sheet', 12, 'delete_keptsheet');

INSERT INTO `auth_permission` VALUES (48, 'Can view kept sheet', 12, 'view_keptsheet');

INSERT INTO `auth_permission` VALUES (49, 'Can add delivery', 13, 'add_delivery');

INSERT INTO `auth_permission` VALUES (50, 'Can change delivery', 13, 'change_delivery');

INSERT INTO `auth_permission` VALUES (51, 'Can delete delivery', 13, 'delete_delivery');

INSERT INTO `auth_permission` VALUES (52, 'Can view delivery', 13, 'view_delivery');

INSERT INTO `auth_permission` VALUES (53, 'Can add kept reference', 14, 'add_keptreference');

INSERT INTO `auth_permission` VALUES (54, 'Can change kept reference', 14, 'change_keptreference');

INSERT INTO `auth_permission` VALUES (55, 'Can delete kept reference', 14, 'delete_keptreference');

INSERT INTO `auth_permission` VALUES (56, 'Can view kept reference', 14, 'view_keptreference');

INSERT INTO `auth_permission` VALUES (57, 'Can add kept key', 15, 'add_keptkey');

INSERT INTO `auth_permission` VALUES (58, 'Can change kept key', 15, 'change_keptkey');

INSERT INTO `auth_permission` VALUES (59, 'Can delete kept key', 15, 'delete_keptkey');

INSERT INTO `auth_permission` VALUES (60, 'Can view kept key', 15, 'view_keptkey');

INSERT INTO `delivery_delivery` VALUES ('df143fae-a726-4826-8386-12fd6613379d', 5, 'png', 'wall-nubilis.png', 18252, 0.5747251157407407e0, '2026-11-26 23:23:27.309807', 1);

INSERT INTO `django_content_type` VALUES (5, 'accounts', 'user');

INSERT INTO `django_content_type` VALUES (2, 'auth', 'group');

INSERT INTO `django_content_type` VALUES (1, 'auth', 'permission');

INSERT INTO `django_content_type` VALUES (3, 'contenttypes', 'contenttype');

INSERT INTO `django_content_type` VALUES (13, 'delivery', 'delivery');

INSERT INTO `django_content_type` VALUES (15, 'keys', 'keptkey');

INSERT INTO `django_content_type` VALUES (14, 'references', 'keptreference');

INSERT INTO `django_content_type` VALUES (4, 'sessions', 'session');

INSERT INTO `django_content_type` VALUES (7, 'shoots', 'photo');

INSERT INTO `django_content_type` VALUES (6, 'shoots', 'shoot');

INSERT INTO `django_content_type` VALUES (11, 'studio', 'keptpaper');

INSERT INTO `django_content_type` VALUES (12, 'studio', 'keptsheet');

INSERT INTO `django_content_type` VALUES (9, 'studio', 'keptsurvey');

INSERT INTO `django_content_type` VALUES (8, 'studio', 'revision');

INSERT INTO `django_content_type` VALUES (10, 'studio', 'version');

INSERT INTO `django_migrations` VALUES (1, 'contenttypes', '0001_initial', '2026-11-26 23:23:22.040163');

INSERT INTO `django_migrations` VALUES (2, 'contenttypes', '0002_remove_content_type_name', '2026-11-26 23:23:22.098507');

INSERT INTO `django_migrations` VALUES (3, 'auth', '0001_initial', '2026-11-26 23:23:22.139814');

INSERT INTO `django_migrations` VALUES (4, 'auth', '0002_alter_permission_name_max_length', '2026-11-26 23:23:22.151782');

INSERT INTO `django_migrations` VALUES (5, 'auth', '0003_alter_user_email_max_length', '2026-11-26 23:23:22.158693');

INSERT INTO `django_migrations` VALUES (6, 'auth', '0004_alter_user_username_opts', '2026-11-26 23:23:22.165169');

INSERT INTO `django_migrations` VALUES (7, 'auth', '0005_alter_user_last_login_null', '2026-11-26 23:23:22.171310');

INSERT INTO `django_migrations` VALUES (8, 'auth', '0006_require_contenttypes_0002', '2026-11-26 23:23:22.172494');

INSERT INTO `django_migrations` VALUES (9, 'auth', '0007_alter_validators_add_error_messages', '2026-11-26 23:23:22.178337');

INSERT INTO `django_migrations` VALUES (10, 'auth', '0008_alter_user_username_max_length', '2026-11-26 23:23:22.184623');

INSERT INTO `django_migrations` VALUES (11, 'auth', '0009_alter_user_last_name_max_length', '2026-11-26 23:23:22.193735');

INSERT INTO `django_migrations` VALUES (12, 'auth', '0010_alter_group_name_max_length', '2026-11-26 23:23:22.202726');

INSERT INTO `django_migrations` VALUES (13, 'auth', '0011_update_proxy_permissions', '2026-11-26 23:23:22.209851');

INSERT INTO `django_migrations` VALUES (14, 'auth', '0012_alter_user_first_name_max_length', '2026-11-26 23:23:22.216220');

INSERT INTO `django_migrations` VALUES (15, 'accounts', '0001_initial', '2026-11-26 23:23:22.292350');

INSERT INTO `django_migrations` VALUES (16, 'shoots', '0001_initial', '2026-11-26 23:23:22.328925');

INSERT INTO `django_migrations` VALUES (17, 'delivery', '0001_initial', '2026-11-26 23:23:22.345870');

INSERT INTO `django_migrations` VALUES (18, 'keys', '0001_initial', '2026-11-26 23:23:22.363565');

INSERT INTO `django_migrations` VALUES (19, 'references', '0001_initial', '2026-11-26 23:23:22.412579');

INSERT INTO `django_migrations` VALUES (20, 'sessions', '0001_initial', '2026-11-26 23:23:22.420997');

INSERT INTO `django_migrations` VALUES (21, 'studio', '0001_initial', '2026-11-26 23:23:22.454803');

INSERT INTO `django_migrations` VALUES (22, 'studio', '0002_keptsurvey', '2026-11-26 23:23:22.478650');

INSERT INTO `django_migrations` VALUES (23, 'studio', '0003_version', '2026-11-26 23:23:22.512981');

INSERT INTO `django_migrations` VALUES (24, 'studio', '0004_kept', '2026-11-26 23:23:22.571874');

INSERT INTO `shoots_photo` VALUES (1, 'wall', '', 'wall.png', 'c373f8f45ab4478359cfbaed4a6c71dfbd576598e8cb21074c2d478bf1ef39af', 17595, 144, 96, 'PNG', 8, 'sRGB built-in', '[]', '2026-11-26 23:23:25.044076', 5, 1);

INSERT INTO `shoots_photo` VALUES (2, 'second', '', 'second.png', 'f4200de9c4922d2c4842d616cb79ab4bd92c0d2cece0f3413084227b6fa643a7', 16103, 144, 96, 'PNG', 8, 'sRGB built-in', '[]', '2026-11-26 23:23:25.073706', 1, 1);

INSERT INTO `shoots_shoot` VALUES (1, 'Rehearsal', '2026-11-26 23:23:24.469468', 1);

INSERT INTO `studio_keptsurvey` VALUES (1, '{\"findings\":[{\"id\":\"finding-1\",\"cause\":\"mixed-light\",\"confidence\":0.8950233814258263,\"sure\":\"likely\",\"towards\":\"yellow\",\"severity\":8.864481925964355,\"cast\":[0.13101455569267273,3.3337175846099854,13.802336692810059],\"box\":[0.0,0.0,0.9375,0.6666666666666666],\"area\":0.3680555555555556,\"source\":null,\"tainted\":[0.2048611111111111,0.3854166666666667],\"reference\":[0.4756944444444444,0.3715277777777778],\"reason\":\"Surfaces on the left turn 8.9 towards yellow, while the same colour stands without it in the middle. A second lamp, or the sky, would do this.\",\"outline\":[[[0.8923611111111112,0.2951388888888889],[0.8854166666666666,0.3229166666666667],[0.90625,0.3298611111111111],[0.9340277777777778,0.3229166666666667],[0.9340277777777778,0.3020833333333333],[0.9201388888888888,0.2881944444444444],[0.8993055555555556,0.2881944444444444]],[[0.003472222222222222,0.003472222222222222],[0.003472222222222222,0.1076388888888889],[0.024305555555555556,0.1076388888888889],[0.03125,0.11458333333333333],[0.03125,0.1284722222222222],[0.003472222222222222,0.14930555555555555],[0.003472222222222222,0.6631944444444444],[0.4409722222222222,0.6631944444444444],[0.4409722222222222,0.6215277777777778],[0.4201388888888889,0.6006944444444444],[0.3993055555555556,0.6006944444444444],[0.3854166666666667,0.6145833333333334],[0.3368055555555556,0.6145833333333334],[0.3298611111111111,0.6076388888888888],[0.3298611111111111,0.5520833333333334],[0.3854166666666667,0.5243055555555556],[0.3854166666666667,0.5034722222222222],[0.3993055555555556,0.4965277777777778],[0.4201388888888889,0.4409722222222222],[0.4201388888888889,0.3645833333333333],[0.3993055555555556,0.3298611111111111],[0.3368055555555556,0.3298611111111111],[0.3298611111111111,0.3229166666666667],[0.3298611111111111,0.2951388888888889],[0.34375,0.28125],[0.40625,0.2881944444444444],[0.4270833333333333,0.2604166666666667],[0.4270833333333333,0.23958333333333334],[0.4131944444444444,0.22569444444444445],[0.3923611111111111,0.22569444444444445],[0.3854166666666667,0.21875],[0.3854166666666667,0.1909722222222222],[0.3715277777777778,0.16319444444444445],[0.3506944444444444,0.17708333333333334],[0.3368055555555556,0.21180555555555555],[0.3229166666666667,0.22569444444444445],[0.3020833333333333,0.22569444444444445],[0.2743055555555556,0.19791666666666666],[0.2881944444444444,0.12152777777777778],[0.3020833333333333,0.1076388888888889],[0.3298611111111111,0.1076388888888889],[0.34375,0.09375],[0.34375,0.07291666666666667],[0.3298611111111111,0.059027777777777776],[0.3298611111111111,0.003472222222222222]],[[0.2743055555555556,0.4618055555555556],[0.3020833333333333,0.4409722222222222],[0.3298611111111111,0.4409722222222222],[0.3368055555555556,0.4479166666666667],[0.3368055555555556,0.4965277777777778],[0.3298611111111111,0.5034722222222222],[0.28125,0.5034722222222222],[0.2743055555555556,0.4965277777777778]],[[0.2951388888888889,0.3298611111111111],[0.3298611111111111,0.3298611111111111],[0.3368055555555556,0.3368055555555556],[0.3368055555555556,0.3854166666666667],[0.3298611111111111,0.3923611111111111],[0.3090277777777778,0.3923611111111111],[0.28125,0.3784722222222222],[0.28125,0.3506944444444444]]],\"shift\":[0.06816806441003626,0.35341203212738037],\"adopted\":{\"id\":\"finding-1\",\"name\":\"Yellow cast\",\"on\":true,\"pairs\":[{\"id\":\"pair-1\",\"tainted\":{\"at\":[0.2048611111111111,0.3854166666666667],\"further\":[],\"radius\":0.012,\"rgb\":[0.23586241900920868,0.2178545445203781,0.1357421576976776],\"spread\":0.7009392247069233,\"count\":9,\"kind\":null,\"origin\":\"made\",\"name\":\"\"},\"reference\":{\"at\":[0.4756944444444444,0.3715277777777778],\"further\":[],\"radius\":0.012,\"rgb\":[0.19406607747077942,0.20708055794239044,0.2100953459739685],\"spread\":0.6683204217097426,\"count\":9,\"kind\":null,\"origin\":\"made\",\"name\":\"\"},\"level\":false,\"second\":false}],\"guards\":[],\"mask\":{\"parts\":[{\"id\":\"mask\",\"join\":\"add\",\"on\":true,\"invert\":false,\"strength\":1.0,\"kind\":\"picture\",\"png\":\"iVBORw0KGgoAAAANSUhEUgAAAJAAAABgCAAAAADXv6R9AAAFbUlEQVRogc2aW08bRxSAd2b26huxDZiLKJCgELVVFUHTpmql/rX+l/6FVq3Ut75ELUlTpeEOMgaDbcwar9f23me6gHHsPHkuq3CevNLO+tPMOWfODRCJTip//PzfNeUaGoH0S2TxFCNCDURQlATHUKiBANAkkATJQKiBjJyhPiggOV3MMCjexEK/Q9PzBSUJkoFQA6nF5ZKR4JlR2zCa+bJWc5wkWG6FXh206VImQVdEDwRT6dSDAgKKoaAESAbCYMEAPCizjy8PgsVzDIUBCEcSbYhAIfRAxA+CBIGo7AV79mVt/7e90zApHDogbF1UyhfH52aCG0QDROyDNzvHlm1iREhiTBRAwdW713s1ohpKGIYkqTCWAsiplw/PelNqPq3jsPfnJwci7mW5dg2N5WeLRb1LttxkTo0CyK42ehJ48mJzoYh8d/WsmwjR5EBBxwyQnnv5zRcFVSLeS1xJJAaZHMi5aoUzc5s/bGRuwjM1rUGQxBZNDgT19Gy08mT5LlyUv26ZfvBJgeTssi+tPi0MVqyfHNidBLZociBl5nEaLq2mBo+ltZV20P+UQHL+2Tws3G+QlF1as/xL8bY/ORBIKUWgDt9PL37uY1gXToR+mpwIqcqHaAXp2WwGO31VsGYzh+vAWDI0r91aOBbrjvh8Celtfyf4zHidWy8jhmMo3N5WdFadZEbDJA8OiDcp5k3RkCLLQQT96F51OIGCc771erGYQsRy/X47EgEUdd7z8Xz2fH2hm2t23MrfzZAfyK9u/fpit8u6HOSe/rjxfCYHULux/X5w+BxAxG/svj3YZ+aRgD67tr4mx44jn8qtNLrMQEQi8UeI1zp6/U/ZZuaRUHp+aUG5QyvllTuXyABEInzjDwO7cbh7YnE4VnlqoTR1/zuT6kSMQDiMIgyh2zo/rZo+O48kpwrZ4f/LGLICIYDjIyOSJuMo5Ll5kJZWhjdPapCds+gQhLdrs48KSOa5CyECH2pfF4MaD9vVAWKRM/nFpRxPtRFEbs/r3/royKs6d56R3eyBsabjwGmwA5lvvMON9YIuR32n7DNYGQkleTTakAsrT3Y4gKTOjlX5qpSRsWNWjm1qHSKhg8c7Qcbc6vwuBxCxvObJlA7DHr66z/Fodii29nEVRrmlWQ6e2IP0HVuJU3Ic+Cy3PURwXIdhJvuICyjepI9zTQogoEAij0esYUCg4KI1jdkDWfkoggaaqwrF4Q1hI1fKCo7y+YAAkkXX0fiAoJYRXUbjA0KprCCOoXCmQYonBuOD8AGpD22HIl+01fMeWSS8qMcHFFw2RefiXN8Lz7bepkWRDIQm/IizjfG7I/IdlyfK5wPCbj8EOX2UyGvV+6KL5xS9DqsdIEUZWUCc67YlukM9MRDxu1ag+6M3F+7Wm8IdI0WdWkLQGNMh36pfCu8ITQwEtNlsqIyNoYR2syu8/0LR68gYEhx7PdaqvvDWAnvmab/7/Zdd4SrE7hhx57TaTmCggBmoX905aiUw0sgM1Dw6qifRdGUGqpUrrSRGQNiKDSTqHe5fJNInZwLq++3yv9tmEj1gFiDPbu2Zb7dOxPugG6EGIvbR1ulf9f51N5nBL2qg4HJ3e+vqKiIQ4QehQ65VPe5ZGGYjEoahL3z6i/7IXEdBRjqzDGTsdVumKdg5UgOBVHo2nFUeb2pa5Jgn56+aYoNYaiAtv6IvSjOPn+oK8ezanrVTF7pH1EBq6Vvbj6ancrGPJ7j06KzTFToCQn9kemmaIHgbOgJYgN+bjZ7IK4TeMQJt9CE/v5xviATiTjwLc2Knq7mB5JEBFRHCD5RVhU5XcwNBIrbcwP01EoqNQviBkNi6MDdQFGdSIpH+B/gEHfMaZ+rNAAAAAElFTkSuQmCC\"}],\"refine\":{\"clean\":0.0,\"grow\":0.0,\"follow\":0.0,\"soften\":0.0}},\"remedies\":[{\"id\":\"neutralise\",\"on\":true,\"amount\":0.7,\"kind\":\"neutralise\",\"follow\":1.0,\"soften\":0.0,\"hold_lightness\":1.0}],\"link\":null}}],\"directions\":[{\"shift\":[0.023529004100229158,0.19318516525781368],\"towards\":\"yellow\",\"cast\":[-0.40957567469152023,8.746724184899414],\"share\":1.0},{\"shift\":[0.08781143875355167,0.05176380902050415],\"towards\":\"red\",\"cast\":[7.218056322824573,2.1226131322402697],\"share\":0.38367024064064026},{\"shift\":[-0.06428243465332249,0.14142135623730953],\"towards\":\"yellow-green\",\"cast\":[-7.183385541951748,6.427036580305079],\"share\":0.37093332409858704}],\"said\":{\"direction\":null,\"places\":[],\"neutral\":null,\"pair_of\":null},\"base\":{\"on\":true,\"temperature\":6504.0,\"tint\":0.0,\"exposure\":0.0,\"contrast\":0.0,\"black\":0.0,\"white\":1.0,\"highlights\":0.0,\"shadows\":0.0,\"saturation\":0.0},\"others\":1}', '2026-11-26 23:23:25.379272', 1);

INSERT INTO `studio_revision` VALUES (1, 1, '{\"format\": \"nubilis-recipe\", \"version\": 1, \"casts\": [{\"id\": \"a\", \"name\": \"Early\", \"pairs\": [{\"id\": \"p\", \"tainted\": {\"at\": [0.2, 0.3], \"radius\": 0.02, \"rgb\": [0.4, 0.28, 0.25]}, \"reference\": {\"at\": null, \"radius\": 0.02, \"rgb\": [0.3, 0.3, 0.3]}, \"reference_kind\": \"neutral\"}], \"mask\": {\"parts\": [{\"kind\": \"brush\", \"id\": \"b\", \"strokes\": [{\"size\": 0.2, \"feather\": 0.5, \"points\": [[[0.2, 0.1], 1.0], [[0.2, 0.5], 1.0]]}]}]}, \"remedies\": [{\"kind\": \"neutralise\", \"id\": \"n\", \"amount\": 1.0}, {\"kind\": \"match\", \"id\": \"m\", \"on\": true, \"amount\": 0.5, \"hold_neutrals\": true, \"lighten\": 1.0, \"darken\": 1.0, \"hold_luminance\": 0.0}]}]}', 0, NULL, NULL, '2026-11-26 23:23:25.077648', 1, 1);

INSERT INTO `studio_revision` VALUES (2, 2, '{\"format\":\"nubilis-recipe\",\"version\":1,\"base\":{\"on\":true,\"temperature\":6504.0,\"tint\":0.0,\"exposure\":0.0,\"contrast\":0.0,\"black\":0.0,\"white\":1.0,\"highlights\":0.0,\"shadows\":0.0,\"saturation\":0.0},\"casts\":[{\"id\":\"a\",\"name\":\"Glow\",\"on\":true,\"pairs\":[{\"id\":\"p\",\"tainted\":{\"at\":[0.2,0.3],\"further\":[],\"radius\":0.02,\"rgb\":[0.4,0.28,0.25],\"spread\":0.0,\"count\":0,\"kind\":null,\"origin\":\"made\",\"name\":\"\"},\"reference\":{\"at\":[0.9,0.3],\"further\":[],\"radius\":0.02,\"rgb\":[0.3,0.3,0.3],\"spread\":0.0,\"count\":0,\"kind\":null,\"origin\":\"made\",\"name\":\"\"},\"level\":false,\"second\":false}],\"guards\":[],\"mask\":{\"parts\":[{\"id\":\"b\",\"join\":\"add\",\"on\":true,\"invert\":false,\"strength\":1.0,\"kind\":\"brush\",\"strokes\":[{\"size\":0.2,\"feather\":0.5,\"flow\":1.0,\"opacity\":1.0,\"edges\":false,\"erase\":false,\"points\":[[[0.2,0.1],1.0],[[0.2,0.5],1.0]]}]}],\"refine\":{\"clean\":0.0,\"grow\":0.0,\"follow\":0.0,\"soften\":0.0}},\"remedies\":[{\"id\":\"n\",\"on\":true,\"amount\":1.0,\"kind\":\"neutralise\",\"follow\":1.0,\"soften\":0.0,\"hold_lightness\":1.0}],\"link\":null}],\"dismissed\":[]}', 1, NULL, NULL, '2026-11-26 23:23:25.090788', 1, 1);

INSERT INTO `studio_revision` VALUES (3, 3, '{\"format\":\"nubilis-recipe\",\"version\":1,\"base\":{\"on\":true,\"temperature\":6504.0,\"tint\":0.0,\"exposure\":0.0,\"contrast\":0.0,\"black\":0.0,\"white\":1.0,\"highlights\":0.0,\"shadows\":0.0,\"saturation\":0.0},\"casts\":[{\"id\":\"a\",\"name\":\"Glow\",\"on\":true,\"pairs\":[{\"id\":\"p\",\"tainted\":{\"at\":[0.2,0.3],\"further\":[],\"radius\":0.02,\"rgb\":[0.4,0.28,0.25],\"spread\":0.0,\"count\":0,\"kind\":null,\"origin\":\"made\",\"name\":\"\"},\"reference\":{\"at\":[0.9,0.3],\"further\":[],\"radius\":0.02,\"rgb\":[0.3,0.3,0.3],\"spread\":0.0,\"count\":0,\"kind\":null,\"origin\":\"made\",\"name\":\"\"},\"level\":false,\"second\":false}],\"guards\":[],\"mask\":{\"parts\":[{\"id\":\"b\",\"join\":\"add\",\"on\":true,\"invert\":false,\"strength\":1.0,\"kind\":\"brush\",\"strokes\":[{\"size\":0.2,\"feather\":0.5,\"flow\":1.0,\"opacity\":1.0,\"edges\":false,\"erase\":false,\"points\":[[[0.2,0.1],1.0],[[0.2,0.5],1.0]]}]}],\"refine\":{\"clean\":0.0,\"grow\":0.0,\"follow\":0.0,\"soften\":0.0}},\"remedies\":[{\"id\":\"n\",\"on\":true,\"amount\":1.0,\"kind\":\"neutralise\",\"follow\":1.0,\"soften\":0.0,\"hold_lightness\":1.0}],\"link\":null},{\"id\":\"adopted\",\"name\":\"Yellow cast\",\"on\":true,\"pairs\":[{\"id\":\"pair-1\",\"tainted\":{\"at\":[0.2048611111111111,0.3854166666666667],\"further\":[],\"radius\":0.012,\"rgb\":[0.23586241900920868,0.2178545445203781,0.1357421576976776],\"spread\":0.7009392247069233,\"count\":9,\"kind\":null,\"origin\":\"made\",\"name\":\"\"},\"reference\":{\"at\":[0.4756944444444444,0.3715277777777778],\"further\":[],\"radius\":0.012,\"rgb\":[0.19406607747077942,0.20708055794239044,0.2100953459739685],\"spread\":0.6683204217097426,\"count\":9,\"kind\":null,\"origin\":\"made\",\"name\":\"\"},\"level\":false,\"second\":false}],\"guards\":[],\"mask\":{\"parts\":[{\"id\":\"mask\",\"join\":\"add\",\"on\":true,\"invert\":false,\"strength\":1.0,\"kind\":\"picture\",\"png\":\"iVBORw0KGgoAAAANSUhEUgAAAJAAAABgCAAAAADXv6R9AAAFbUlEQVRogc2aW08bRxSAd2b26huxDZiLKJCgELVVFUHTpmql/rX+l/6FVq3Ut75ELUlTpeEOMgaDbcwar9f23me6gHHsPHkuq3CevNLO+tPMOWfODRCJTip//PzfNeUaGoH0S2TxFCNCDURQlATHUKiBANAkkATJQKiBjJyhPiggOV3MMCjexEK/Q9PzBSUJkoFQA6nF5ZKR4JlR2zCa+bJWc5wkWG6FXh206VImQVdEDwRT6dSDAgKKoaAESAbCYMEAPCizjy8PgsVzDIUBCEcSbYhAIfRAxA+CBIGo7AV79mVt/7e90zApHDogbF1UyhfH52aCG0QDROyDNzvHlm1iREhiTBRAwdW713s1ohpKGIYkqTCWAsiplw/PelNqPq3jsPfnJwci7mW5dg2N5WeLRb1LttxkTo0CyK42ehJ48mJzoYh8d/WsmwjR5EBBxwyQnnv5zRcFVSLeS1xJJAaZHMi5aoUzc5s/bGRuwjM1rUGQxBZNDgT19Gy08mT5LlyUv26ZfvBJgeTssi+tPi0MVqyfHNidBLZociBl5nEaLq2mBo+ltZV20P+UQHL+2Tws3G+QlF1as/xL8bY/ORBIKUWgDt9PL37uY1gXToR+mpwIqcqHaAXp2WwGO31VsGYzh+vAWDI0r91aOBbrjvh8Celtfyf4zHidWy8jhmMo3N5WdFadZEbDJA8OiDcp5k3RkCLLQQT96F51OIGCc771erGYQsRy/X47EgEUdd7z8Xz2fH2hm2t23MrfzZAfyK9u/fpit8u6HOSe/rjxfCYHULux/X5w+BxAxG/svj3YZ+aRgD67tr4mx44jn8qtNLrMQEQi8UeI1zp6/U/ZZuaRUHp+aUG5QyvllTuXyABEInzjDwO7cbh7YnE4VnlqoTR1/zuT6kSMQDiMIgyh2zo/rZo+O48kpwrZ4f/LGLICIYDjIyOSJuMo5Ll5kJZWhjdPapCds+gQhLdrs48KSOa5CyECH2pfF4MaD9vVAWKRM/nFpRxPtRFEbs/r3/royKs6d56R3eyBsabjwGmwA5lvvMON9YIuR32n7DNYGQkleTTakAsrT3Y4gKTOjlX5qpSRsWNWjm1qHSKhg8c7Qcbc6vwuBxCxvObJlA7DHr66z/Fodii29nEVRrmlWQ6e2IP0HVuJU3Ic+Cy3PURwXIdhJvuICyjepI9zTQogoEAij0esYUCg4KI1jdkDWfkoggaaqwrF4Q1hI1fKCo7y+YAAkkXX0fiAoJYRXUbjA0KprCCOoXCmQYonBuOD8AGpD22HIl+01fMeWSS8qMcHFFw2RefiXN8Lz7bepkWRDIQm/IizjfG7I/IdlyfK5wPCbj8EOX2UyGvV+6KL5xS9DqsdIEUZWUCc67YlukM9MRDxu1ag+6M3F+7Wm8IdI0WdWkLQGNMh36pfCu8ITQwEtNlsqIyNoYR2syu8/0LR68gYEhx7PdaqvvDWAnvmab/7/Zdd4SrE7hhx57TaTmCggBmoX905aiUw0sgM1Dw6qifRdGUGqpUrrSRGQNiKDSTqHe5fJNInZwLq++3yv9tmEj1gFiDPbu2Zb7dOxPugG6EGIvbR1ulf9f51N5nBL2qg4HJ3e+vqKiIQ4QehQ65VPe5ZGGYjEoahL3z6i/7IXEdBRjqzDGTsdVumKdg5UgOBVHo2nFUeb2pa5Jgn56+aYoNYaiAtv6IvSjOPn+oK8ezanrVTF7pH1EBq6Vvbj6ancrGPJ7j06KzTFToCQn9kemmaIHgbOgJYgN+bjZ7IK4TeMQJt9CE/v5xviATiTjwLc2Knq7mB5JEBFRHCD5RVhU5XcwNBIrbcwP01EoqNQviBkNi6MDdQFGdSIpH+B/gEHfMaZ+rNAAAAAElFTkSuQmCC\"}],\"refine\":{\"clean\":0.0,\"grow\":0.0,\"follow\":0.0,\"soften\":0.0}},\"remedies\":[{\"id\":\"neutralise\",\"on\":true,\"amount\":0.7,\"kind\":\"neutralise\",\"follow\":1.0,\"soften\":0.0,\"hold_lightness\":1.0}],\"link\":null}],\"dismissed\":[]}', 2, NULL, NULL, '2026-11-26 23:23:25.397918', 1, 1);

INSERT INTO `studio_revision` VALUES (4, 4, '{\"format\":\"nubilis-recipe\",\"version\":1,\"base\":{\"on\":true,\"temperature\":6504.0,\"tint\":0.0,\"exposure\":0.0,\"contrast\":0.0,\"black\":0.0,\"white\":1.0,\"highlights\":0.0,\"shadows\":0.0,\"saturation\":0.0},\"casts\":[{\"id\":\"a\",\"name\":\"Glow\",\"on\":true,\"pairs\":[{\"id\":\"p\",\"tainted\":{\"at\":[0.2,0.3],\"further\":[],\"radius\":0.02,\"rgb\":[0.4,0.28,0.25],\"spread\":0.0,\"count\":0,\"kind\":null,\"origin\":\"made\",\"name\":\"\"},\"reference\":{\"at\":[0.9,0.3],\"further\":[],\"radius\":0.02,\"rgb\":[0.3,0.3,0.3],\"spread\":0.0,\"count\":0,\"kind\":null,\"origin\":\"made\",\"name\":\"\"},\"level\":false,\"second\":false}],\"guards\":[],\"mask\":{\"parts\":[{\"id\":\"b\",\"join\":\"add\",\"on\":true,\"invert\":false,\"strength\":1.0,\"kind\":\"brush\",\"strokes\":[{\"size\":0.2,\"feather\":0.5,\"flow\":1.0,\"opacity\":1.0,\"edges\":false,\"erase\":false,\"points\":[[[0.2,0.1],1.0],[[0.2,0.5],1.0]]}]},{\"id\":\"grey\",\"join\":\"intersect\",\"on\":true,\"invert\":false,\"strength\":1.0,\"kind\":\"picture\",\"png\":\"iVBORw0KGgoAAAANSUhEUgAAAJAAAABgEAAAAACHL3g+AAAA/UlEQVR4nO3QwRGDIBRAQbD/yqSpRMdJPLkW8NYDyL/Am2PMfTu+da7r2M9rvc7Ov/li9t29mJ1nnP3Objd7mt1u+DD73+zla9c28qhAUCAoEBQICgQFggJBgaBAUCAoEBQICgQFggJBgaBAUCAoEBQICgQFggJBgaBAUCAoEBQICgQFggJBgaBAUCAoEBQICgQFggJBgaBAUCAoEBQICgQFggJBgaBAUCAoEBQICgQFggJBgaBAUCAoEBQICgQFggJBgaBAUCAoEBQICgQFggJBgaBAUCAoEBQICgQFggJBgaBAUCAoEBQICgQFggJBgaBAUCAoEBQICgQFgg/HyXK+snv0cgAAAABJRU5ErkJggg==\"}],\"refine\":{\"clean\":0.0,\"grow\":0.0,\"follow\":0.0,\"soften\":0.0}},\"remedies\":[{\"id\":\"n\",\"on\":true,\"amount\":1.0,\"kind\":\"neutralise\",\"follow\":1.0,\"soften\":0.0,\"hold_lightness\":1.0}],\"link\":null},{\"id\":\"adopted\",\"name\":\"Yellow cast\",\"on\":true,\"pairs\":[{\"id\":\"pair-1\",\"tainted\":{\"at\":[0.2048611111111111,0.3854166666666667],\"further\":[],\"radius\":0.012,\"rgb\":[0.23586241900920868,0.2178545445203781,0.1357421576976776],\"spread\":0.7009392247069233,\"count\":9,\"kind\":null,\"origin\":\"made\",\"name\":\"\"},\"reference\":{\"at\":[0.4756944444444444,0.3715277777777778],\"further\":[],\"radius\":0.012,\"rgb\":[0.19406607747077942,0.20708055794239044,0.2100953459739685],\"spread\":0.6683204217097426,\"count\":9,\"kind\":null,\"origin\":\"made\",\"name\":\"\"},\"level\":false,\"second\":false}],\"guards\":[],\"mask\":{\"parts\":[{\"id\":\"mask\",\"join\":\"add\",\"on\":true,\"invert\":false,\"strength\":1.0,\"kind\":\"picture\",\"png\":\"iVBORw0KGgoAAAANSUhEUgAAAJAAAABgCAAAAADXv6R9AAAFbUlEQVRogc2aW08bRxSAd2b26huxDZiLKJCgELVVFUHTpmql/rX+l/6FVq3Ut75ELUlTpeEOMgaDbcwar9f23me6gHHsPHkuq3CevNLO+tPMOWfODRCJTip//PzfNeUaGoH0S2TxFCNCDURQlATHUKiBANAkkATJQKiBjJyhPiggOV3MMCjexEK/Q9PzBSUJkoFQA6nF5ZKR4JlR2zCa+bJWc5wkWG6FXh206VImQVdEDwRT6dSDAgKKoaAESAbCYMEAPCizjy8PgsVzDIUBCEcSbYhAIfRAxA+CBIGo7AV79mVt/7e90zApHDogbF1UyhfH52aCG0QDROyDNzvHlm1iREhiTBRAwdW713s1ohpKGIYkqTCWAsiplw/PelNqPq3jsPfnJwci7mW5dg2N5WeLRb1LttxkTo0CyK42ehJ48mJzoYh8d/WsmwjR5EBBxwyQnnv5zRcFVSLeS1xJJAaZHMi5aoUzc5s/bGRuwjM1rUGQxBZNDgT19Gy08mT5LlyUv26ZfvBJgeTssi+tPi0MVqyfHNidBLZociBl5nEaLq2mBo+ltZV20P+UQHL+2Tws3G+QlF1as/xL8bY/ORBIKUWgDt9PL37uY1gXToR+mpwIqcqHaAXp2WwGO31VsGYzh+vAWDI0r91aOBbrjvh8Celtfyf4zHidWy8jhmMo3N5WdFadZEbDJA8OiDcp5k3RkCLLQQT96F51OIGCc771erGYQsRy/X47EgEUdd7z8Xz2fH2hm2t23MrfzZAfyK9u/fpit8u6HOSe/rjxfCYHULux/X5w+BxAxG/svj3YZ+aRgD67tr4mx44jn8qtNLrMQEQi8UeI1zp6/U/ZZuaRUHp+aUG5QyvllTuXyABEInzjDwO7cbh7YnE4VnlqoTR1/zuT6kSMQDiMIgyh2zo/rZo+O48kpwrZ4f/LGLICIYDjIyOSJuMo5Ll5kJZWhjdPapCds+gQhLdrs48KSOa5CyECH2pfF4MaD9vVAWKRM/nFpRxPtRFEbs/r3/royKs6d56R3eyBsabjwGmwA5lvvMON9YIuR32n7DNYGQkleTTakAsrT3Y4gKTOjlX5qpSRsWNWjm1qHSKhg8c7Qcbc6vwuBxCxvObJlA7DHr66z/Fodii29nEVRrmlWQ6e2IP0HVuJU3Ic+Cy3PURwXIdhJvuICyjepI9zTQogoEAij0esYUCg4KI1jdkDWfkoggaaqwrF4Q1hI1fKCo7y+YAAkkXX0fiAoJYRXUbjA0KprCCOoXCmQYonBuOD8AGpD22HIl+01fMeWSS8qMcHFFw2RefiXN8Lz7bepkWRDIQm/IizjfG7I/IdlyfK5wPCbj8EOX2UyGvV+6KL5xS9DqsdIEUZWUCc67YlukM9MRDxu1ag+6M3F+7Wm8IdI0WdWkLQGNMh36pfCu8ITQwEtNlsqIyNoYR2syu8/0LR68gYEhx7PdaqvvDWAnvmab/7/Zdd4SrE7hhx57TaTmCggBmoX905aiUw0sgM1Dw6qifRdGUGqpUrrSRGQNiKDSTqHe5fJNInZwLq++3yv9tmEj1gFiDPbu2Zb7dOxPugG6EGIvbR1ulf9f51N5nBL2qg4HJ3e+vqKiIQ4QehQ65VPe5ZGGYjEoahL3z6i/7IXEdBRjqzDGTsdVumKdg5UgOBVHo2nFUeb2pa5Jgn56+aYoNYaiAtv6IvSjOPn+oK8ezanrVTF7pH1EBq6Vvbj6ancrGPJ7j06KzTFToCQn9kemmaIHgbOgJYgN+bjZ7IK4TeMQJt9CE/v5xviATiTjwLc2Knq7mB5JEBFRHCD5RVhU5XcwNBIrbcwP01EoqNQviBkNi6MDdQFGdSIpH+B/gEHfMaZ+rNAAAAAElFTkSuQmCC\"}],\"refine\":{\"clean\":0.0,\"grow\":0.0,\"follow\":0.0,\"soften\":0.0}},\"remedies\":[{\"id\":\"neutralise\",\"on\":true,\"amount\":0.7,\"kind\":\"neutralise\",\"follow\":1.0,\"soften\":0.0,\"hold_lightness\":1.0}],\"link\":null}],\"dismissed\":[{\"id\":\"d\",\"shift\":[0.1,0.2],\"box\":[0.0,0.0,0.3,0.3]}]}', 3, NULL, NULL, '2026-11-26 23:23:25.422714', 1, 1);

INSERT INTO `studio_revision` VALUES (5, 5, '{\"format\":\"nubilis-recipe\",\"version\":1,\"base\":{\"on\":true,\"temperature\":6504.0,\"tint\":0.0,\"exposure\":0.0,\"contrast\":0.0,\"black\":0.0,\"white\":1.0,\"highlights\":0.0,\"shadows\":0.0,\"saturation\":0.0},\"casts\":[{\"id\":\"a\",\"name\":\"Glow\",\"on\":true,\"pairs\":[{\"id\":\"p\",\"tainted\":{\"at\":[0.2,0.3],\"further\":[],\"radius\":0.02,\"rgb\":[0.4,0.28,0.25],\"spread\":0.0,\"count\":0,\"kind\":null,\"origin\":\"made\",\"name\":\"\"},\"reference\":{\"at\":[0.9,0.3],\"further\":[],\"radius\":0.02,\"rgb\":[0.3,0.3,0.3],\"spread\":0.0,\"count\":0,\"kind\":null,\"origin\":\"made\",\"name\":\"\"},\"level\":false,\"second\":false}],\"guards\":[],\"mask\":{\"parts\":[{\"id\":\"b\",\"join\":\"add\",\"on\":true,\"invert\":false,\"strength\":1.0,\"kind\":\"brush\",\"strokes\":[{\"size\":0.2,\"feather\":0.5,\"flow\":1.0,\"opacity\":1.0,\"edges\":false,\"erase\":false,\"points\":[[[0.2,0.1],1.0],[[0.2,0.5],1.0]]}]}],\"refine\":{\"clean\":0.0,\"grow\":0.0,\"follow\":0.0,\"soften\":0.0}},\"remedies\":[{\"id\":\"n\",\"on\":true,\"amount\":1.0,\"kind\":\"neutralise\",\"follow\":1.0,\"soften\":0.0,\"hold_lightness\":1.0}],\"link\":null},{\"id\":\"adopted\",\"name\":\"Yellow cast\",\"on\":true,\"pairs\":[{\"id\":\"pair-1\",\"tainted\":{\"at\":[0.2048611111111111,0.3854166666666667],\"further\":[],\"radius\":0.012,\"rgb\":[0.23586241900920868,0.2178545445203781,0.1357421576976776],\"spread\":0.7009392247069233,\"count\":9,\"kind\":null,\"origin\":\"made\",\"name\":\"\"},\"reference\":{\"at\":[0.4756944444444444,0.3715277777777778],\"further\":[],\"radius\":0.012,\"rgb\":[0.19406607747077942,0.20708055794239044,0.2100953459739685],\"spread\":0.6683204217097426,\"count\":9,\"kind\":null,\"origin\":\"made\",\"name\":\"\"},\"level\":false,\"second\":false}],\"guards\":[],\"mask\":{\"parts\":[{\"id\":\"mask\",\"join\":\"add\",\"on\":true,\"invert\":false,\"strength\":1.0,\"kind\":\"picture\",\"png\":\"iVBORw0KGgoAAAANSUhEUgAAAJAAAABgCAAAAADXv6R9AAAFbUlEQVRogc2aW08bRxSAd2b26huxDZiLKJCgELVVFUHTpmql/rX+l/6FVq3Ut75ELUlTpeEOMgaDbcwar9f23me6gHHsPHkuq3CevNLO+tPMOWfODRCJTip//PzfNeUaGoH0S2TxFCNCDURQlATHUKiBANAkkATJQKiBjJyhPiggOV3MMCjexEK/Q9PzBSUJkoFQA6nF5ZKR4JlR2zCa+bJWc5wkWG6FXh206VImQVdEDwRT6dSDAgKKoaAESAbCYMEAPCizjy8PgsVzDIUBCEcSbYhAIfRAxA+CBIGo7AV79mVt/7e90zApHDogbF1UyhfH52aCG0QDROyDNzvHlm1iREhiTBRAwdW713s1ohpKGIYkqTCWAsiplw/PelNqPq3jsPfnJwci7mW5dg2N5WeLRb1LttxkTo0CyK42ehJ48mJzoYh8d/WsmwjR5EBBxwyQnnv5zRcFVSLeS1xJJAaZHMi5aoUzc5s/bGRuwjM1rUGQxBZNDgT19Gy08mT5LlyUv26ZfvBJgeTssi+tPi0MVqyfHNidBLZociBl5nEaLq2mBo+ltZV20P+UQHL+2Tws3G+QlF1as/xL8bY/ORBIKUWgDt9PL37uY1gXToR+mpwIqcqHaAXp2WwGO31VsGYzh+vAWDI0r91aOBbrjvh8Celtfyf4zHidWy8jhmMo3N5WdFadZEbDJA8OiDcp5k3RkCLLQQT96F51OIGCc771erGYQsRy/X47EgEUdd7z8Xz2fH2hm2t23MrfzZAfyK9u/fpit8u6HOSe/rjxfCYHULux/X5w+BxAxG/svj3YZ+aRgD67tr4mx44jn8qtNLrMQEQi8UeI1zp6/U/ZZuaRUHp+aUG5QyvllTuXyABEInzjDwO7cbh7YnE4VnlqoTR1/zuT6kSMQDiMIgyh2zo/rZo+O48kpwrZ4f/LGLICIYDjIyOSJuMo5Ll5kJZWhjdPapCds+gQhLdrs48KSOa5CyECH2pfF4MaD9vVAWKRM/nFpRxPtRFEbs/r3/royKs6d56R3eyBsabjwGmwA5lvvMON9YIuR32n7DNYGQkleTTakAsrT3Y4gKTOjlX5qpSRsWNWjm1qHSKhg8c7Qcbc6vwuBxCxvObJlA7DHr66z/Fodii29nEVRrmlWQ6e2IP0HVuJU3Ic+Cy3PURwXIdhJvuICyjepI9zTQogoEAij0esYUCg4KI1jdkDWfkoggaaqwrF4Q1hI1fKCo7y+YAAkkXX0fiAoJYRXUbjA0KprCCOoXCmQYonBuOD8AGpD22HIl+01fMeWSS8qMcHFFw2RefiXN8Lz7bepkWRDIQm/IizjfG7I/IdlyfK5wPCbj8EOX2UyGvV+6KL5xS9DqsdIEUZWUCc67YlukM9MRDxu1ag+6M3F+7Wm8IdI0WdWkLQGNMh36pfCu8ITQwEtNlsqIyNoYR2syu8/0LR68gYEhx7PdaqvvDWAnvmab/7/Zdd4SrE7hhx57TaTmCggBmoX905aiUw0sgM1Dw6qifRdGUGqpUrrSRGQNiKDSTqHe5fJNInZwLq++3yv9tmEj1gFiDPbu2Zb7dOxPugG6EGIvbR1ulf9f51N5nBL2qg4HJ3e+vqKiIQ4QehQ65VPe5ZGGYjEoahL3z6i/7IXEdBRjqzDGTsdVumKdg5UgOBVHo2nFUeb2pa5Jgn56+aYoNYaiAtv6IvSjOPn+oK8ezanrVTF7pH1EBq6Vvbj6ancrGPJ7j06KzTFToCQn9kemmaIHgbOgJYgN+bjZ7IK4TeMQJt9CE/v5xviATiTjwLc2Knq7mB5JEBFRHCD5RVhU5XcwNBIrbcwP01EoqNQviBkNi6MDdQFGdSIpH+B/gEHfMaZ+rNAAAAAElFTkSuQmCC\"}],\"refine\":{\"clean\":0.0,\"grow\":0.0,\"follow\":0.0,\"soften\":0.0}},\"remedies\":[{\"id\":\"neutralise\",\"on\":true,\"amount\":0.7,\"kind\":\"neutralise\",\"follow\":1.0,\"soften\":0.0,\"hold_lightness\":1.0}],\"link\":null}],\"dismissed\":[]}', 2, 4, NULL, '2026-11-26 23:23:25.464153', 1, 1);

INSERT INTO `studio_revision` VALUES (6, 1, '{\"format\":\"nubilis-recipe\",\"version\":1,\"base\":{\"on\":true,\"temperature\":6504.0,\"tint\":0.0,\"exposure\":0.0,\"contrast\":0.0,\"black\":0.0,\"white\":1.0,\"highlights\":0.0,\"shadows\":0.0,\"saturation\":0.0},\"casts\":[{\"id\":\"e515d9f712\",\"name\":\"Yellow cast\",\"on\":true,\"pairs\":[{\"id\":\"pair-1\",\"tainted\":{\"at\":null,\"further\":[],\"radius\":0.012,\"rgb\":[0.23586241900920868,0.2178545445203781,0.1357421576976776],\"spread\":0.7009392247069233,\"count\":9,\"kind\":null,\"origin\":\"photo\",\"name\":\"wall\"},\"reference\":{\"at\":null,\"further\":[],\"radius\":0.012,\"rgb\":[0.19406607747077942,0.20708055794239044,0.2100953459739685],\"spread\":0.6683204217097426,\"count\":9,\"kind\":null,\"origin\":\"photo\",\"name\":\"wall\"},\"level\":false,\"second\":false}],\"guards\":[],\"mask\":{\"parts\":[{\"id\":\"mask\",\"join\":\"add\",\"on\":true,\"invert\":false,\"strength\":1.0,\"kind\":\"picture\",\"png\":\"iVBORw0KGgoAAAANSUhEUgAAAJAAAABgCAAAAADXv6R9AAAFbUlEQVRogc2aW08bRxSAd2b26huxDZiLKJCgELVVFUHTpmql/rX+l/6FVq3Ut75ELUlTpeEOMgaDbcwar9f23me6gHHsPHkuq3CevNLO+tPMOWfODRCJTip//PzfNeUaGoH0S2TxFCNCDURQlATHUKiBANAkkATJQKiBjJyhPiggOV3MMCjexEK/Q9PzBSUJkoFQA6nF5ZKR4JlR2zCa+bJWc5wkWG6FXh206VImQVdEDwRT6dSDAgKKoaAESAbCYMEAPCizjy8PgsVzDIUBCEcSbYhAIfRAxA+CBIGo7AV79mVt/7e90zApHDogbF1UyhfH52aCG0QDROyDNzvHlm1iREhiTBRAwdW713s1ohpKGIYkqTCWAsiplw/PelNqPq3jsPfnJwci7mW5dg2N5WeLRb1LttxkTo0CyK42ehJ48mJzoYh8d/WsmwjR5EBBxwyQnnv5zRcFVSLeS1xJJAaZHMi5aoUzc5s/bGRuwjM1rUGQxBZNDgT19Gy08mT5LlyUv26ZfvBJgeTssi+tPi0MVqyfHNidBLZociBl5nEaLq2mBo+ltZV20P+UQHL+2Tws3G+QlF1as/xL8bY/ORBIKUWgDt9PL37uY1gXToR+mpwIqcqHaAXp2WwGO31VsGYzh+vAWDI0r91aOBbrjvh8Celtfyf4zHidWy8jhmMo3N5WdFadZEbDJA8OiDcp5k3RkCLLQQT96F51OIGCc771erGYQsRy/X47EgEUdd7z8Xz2fH2hm2t23MrfzZAfyK9u/fpit8u6HOSe/rjxfCYHULux/X5w+BxAxG/svj3YZ+aRgD67tr4mx44jn8qtNLrMQEQi8UeI1zp6/U/ZZuaRUHp+aUG5QyvllTuXyABEInzjDwO7cbh7YnE4VnlqoTR1/zuT6kSMQDiMIgyh2zo/rZo+O48kpwrZ4f/LGLICIYDjIyOSJuMo5Ll5kJZWhjdPapCds+gQhLdrs48KSOa5CyECH2pfF4MaD9vVAWKRM/nFpRxPtRFEbs/r3/royKs6d56R3eyBsabjwGmwA5lvvMON9YIuR32n7DNYGQkleTTakAsrT3Y4gKTOjlX5qpSRsWNWjm1qHSKhg8c7Qcbc6vwuBxCxvObJlA7DHr66z/Fodii29nEVRrmlWQ6e2IP0HVuJU3Ic+Cy3PURwXIdhJvuICyjepI9zTQogoEAij0esYUCg4KI1jdkDWfkoggaaqwrF4Q1hI1fKCo7y+YAAkkXX0fiAoJYRXUbjA0KprCCOoXCmQYonBuOD8AGpD22HIl+01fMeWSS8qMcHFFw2RefiXN8Lz7bepkWRDIQm/IizjfG7I/IdlyfK5wPCbj8EOX2UyGvV+6KL5xS9DqsdIEUZWUCc67YlukM9MRDxu1ag+6M3F+7Wm8IdI0WdWkLQGNMh36pfCu8ITQwEtNlsqIyNoYR2syu8/0LR68gYEhx7PdaqvvDWAnvmab/7/Zdd4SrE7hhx57TaTmCggBmoX905aiUw0sgM1Dw6qifRdGUGqpUrrSRGQNiKDSTqHe5fJNInZwLq++3yv9tmEj1gFiDPbu2Zb7dOxPugG6EGIvbR1ulf9f51N5nBL2qg4HJ3e+vqKiIQ4QehQ65VPe5ZGGYjEoahL3z6i/7IXEdBRjqzDGTsdVumKdg5UgOBVHo2nFUeb2pa5Jgn56+aYoNYaiAtv6IvSjOPn+oK8ezanrVTF7pH1EBq6Vvbj6ancrGPJ7j06KzTFToCQn9kemmaIHgbOgJYgN+bjZ7IK4TeMQJt9CE/v5xviATiTjwLc2Knq7mB5JEBFRHCD5RVhU5XcwNBIrbcwP01EoqNQviBkNi6MDdQFGdSIpH+B/gEHfMaZ+rNAAAAAElFTkSuQmCC\"}],\"refine\":{\"clean\":0.0,\"grow\":0.0,\"follow\":0.0,\"soften\":0.0}},\"remedies\":[{\"id\":\"neutralise\",\"on\":true,\"amount\":0.7,\"kind\":\"neutralise\",\"follow\":1.0,\"soften\":0.0,\"hold_lightness\":1.0}],\"link\":{\"id\":\"adopted\",\"came\":[[\"mask\",\"f830a95683bf\"],[\"neutralise\",\"b43a36fe96b2\"],[\"refine\",\"ddd900f847fa\"]]}}],\"dismissed\":[]}', 0, NULL, NULL, '2026-11-26 23:23:25.482275', 1, 2);

INSERT INTO `studio_version` VALUES (1, 'As it began', '{\"format\": \"nubilis-recipe\", \"version\": 1, \"casts\": [{\"id\": \"a\", \"name\": \"Early\", \"pairs\": [{\"id\": \"p\", \"tainted\": {\"at\": [0.2, 0.3], \"radius\": 0.02, \"rgb\": [0.4, 0.28, 0.25]}, \"reference\": {\"at\": null, \"radius\": 0.02, \"rgb\": [0.3, 0.3, 0.3]}, \"reference_kind\": \"neutral\"}], \"mask\": {\"parts\": [{\"kind\": \"brush\", \"id\": \"b\", \"strokes\": [{\"size\": 0.2, \"feather\": 0.5, \"points\": [[[0.2, 0.1], 1.0], [[0.2, 0.5], 1.0]]}]}]}, \"remedies\": [{\"kind\": \"neutralise\", \"id\": \"n\", \"amount\": 1.0}, {\"kind\": \"match\", \"id\": \"m\", \"on\": true, \"amount\": 0.5, \"hold_neutrals\": true, \"lighten\": 1.0, \"darken\": 1.0, \"hold_luminance\": 0.0}]}]}', '2026-11-26 23:23:25.080201', 1, 1);

INSERT INTO `studio_version` VALUES (2, 'With grey', '{\"format\":\"nubilis-recipe\",\"version\":1,\"base\":{\"on\":true,\"temperature\":6504.0,\"tint\":0.0,\"exposure\":0.0,\"contrast\":0.0,\"black\":0.0,\"white\":1.0,\"highlights\":0.0,\"shadows\":0.0,\"saturation\":0.0},\"casts\":[{\"id\":\"a\",\"name\":\"Glow\",\"on\":true,\"pairs\":[{\"id\":\"p\",\"tainted\":{\"at\":[0.2,0.3],\"further\":[],\"radius\":0.02,\"rgb\":[0.4,0.28,0.25],\"spread\":0.0,\"count\":0,\"kind\":null,\"origin\":\"made\",\"name\":\"\"},\"reference\":{\"at\":[0.9,0.3],\"further\":[],\"radius\":0.02,\"rgb\":[0.3,0.3,0.3],\"spread\":0.0,\"count\":0,\"kind\":null,\"origin\":\"made\",\"name\":\"\"},\"level\":false,\"second\":false}],\"guards\":[],\"mask\":{\"parts\":[{\"id\":\"b\",\"join\":\"add\",\"on\":true,\"invert\":false,\"strength\":1.0,\"kind\":\"brush\",\"strokes\":[{\"size\":0.2,\"feather\":0.5,\"flow\":1.0,\"opacity\":1.0,\"edges\":false,\"erase\":false,\"points\":[[[0.2,0.1],1.0],[[0.2,0.5],1.0]]}]},{\"id\":\"grey\",\"join\":\"intersect\",\"on\":true,\"invert\":false,\"strength\":1.0,\"kind\":\"picture\",\"png\":\"iVBORw0KGgoAAAANSUhEUgAAAJAAAABgEAAAAACHL3g+AAAA/UlEQVR4nO3QwRGDIBRAQbD/yqSpRMdJPLkW8NYDyL/Am2PMfTu+da7r2M9rvc7Ov/li9t29mJ1nnP3Objd7mt1u+DD73+zla9c28qhAUCAoEBQICgQFggJBgaBAUCAoEBQICgQFggJBgaBAUCAoEBQICgQFggJBgaBAUCAoEBQICgQFggJBgaBAUCAoEBQICgQFggJBgaBAUCAoEBQICgQFggJBgaBAUCAoEBQICgQFggJBgaBAUCAoEBQICgQFggJBgaBAUCAoEBQICgQFggJBgaBAUCAoEBQICgQFggJBgaBAUCAoEBQICgQFggJBgaBAUCAoEBQICgQFgg/HyXK+snv0cgAAAABJRU5ErkJggg==\"}],\"refine\":{\"clean\":0.0,\"grow\":0.0,\"follow\":0.0,\"soften\":0.0}},\"remedies\":[{\"id\":\"n\",\"on\":true,\"amount\":1.0,\"kind\":\"neutralise\",\"follow\":1.0,\"soften\":0.0,\"hold_lightness\":1.0}],\"link\":null},{\"id\":\"adopted\",\"name\":\"Yellow cast\",\"on\":true,\"pairs\":[{\"id\":\"pair-1\",\"tainted\":{\"at\":[0.2048611111111111,0.3854166666666667],\"further\":[],\"radius\":0.012,\"rgb\":[0.23586241900920868,0.2178545445203781,0.1357421576976776],\"spread\":0.7009392247069233,\"count\":9,\"kind\":null,\"origin\":\"made\",\"name\":\"\"},\"reference\":{\"at\":[0.4756944444444444,0.3715277777777778],\"further\":[],\"radius\":0.012,\"rgb\":[0.19406607747077942,0.20708055794239044,0.2100953459739685],\"spread\":0.6683204217097426,\"count\":9,\"kind\":null,\"origin\":\"made\",\"name\":\"\"},\"level\":false,\"second\":false}],\"guards\":[],\"mask\":{\"parts\":[{\"id\":\"mask\",\"join\":\"add\",\"on\":true,\"invert\":false,\"strength\":1.0,\"kind\":\"picture\",\"png\":\"iVBORw0KGgoAAAANSUhEUgAAAJAAAABgCAAAAADXv6R9AAAFbUlEQVRogc2aW08bRxSAd2b26huxDZiLKJCgELVVFUHTpmql/rX+l/6FVq3Ut75ELUlTpeEOMgaDbcwar9f23me6gHHsPHkuq3CevNLO+tPMOWfODRCJTip//PzfNeUaGoH0S2TxFCNCDURQlATHUKiBANAkkATJQKiBjJyhPiggOV3MMCjexEK/Q9PzBSUJkoFQA6nF5ZKR4JlR2zCa+bJWc5wkWG6FXh206VImQVdEDwRT6dSDAgKKoaAESAbCYMEAPCizjy8PgsVzDIUBCEcSbYhAIfRAxA+CBIGo7AV79mVt/7e90zApHDogbF1UyhfH52aCG0QDROyDNzvHlm1iREhiTBRAwdW713s1ohpKGIYkqTCWAsiplw/PelNqPq3jsPfnJwci7mW5dg2N5WeLRb1LttxkTo0CyK42ehJ48mJzoYh8d/WsmwjR5EBBxwyQnnv5zRcFVSLeS1xJJAaZHMi5aoUzc5s/bGRuwjM1rUGQxBZNDgT19Gy08mT5LlyUv26ZfvBJgeTssi+tPi0MVqyfHNidBLZociBl5nEaLq2mBo+ltZV20P+UQHL+2Tws3G+QlF1as/xL8bY/ORBIKUWgDt9PL37uY1gXToR+mpwIqcqHaAXp2WwGO31VsGYzh+vAWDI0r91aOBbrjvh8Celtfyf4zHidWy8jhmMo3N5WdFadZEbDJA8OiDcp5k3RkCLLQQT96F51OIGCc771erGYQsRy/X47EgEUdd7z8Xz2fH2hm2t23MrfzZAfyK9u/fpit8u6HOSe/rjxfCYHULux/X5w+BxAxG/svj3YZ+aRgD67tr4mx44jn8qtNLrMQEQi8UeI1zp6/U/ZZuaRUHp+aUG5QyvllTuXyABEInzjDwO7cbh7YnE4VnlqoTR1/zuT6kSMQDiMIgyh2zo/rZo+O48kpwrZ4f/LGLICIYDjIyOSJuMo5Ll5kJZWhjdPapCds+gQhLdrs48KSOa5CyECH2pfF4MaD9vVAWKRM/nFpRxPtRFEbs/r3/royKs6d56R3eyBsabjwGmwA5lvvMON9YIuR32n7DNYGQkleTTakAsrT3Y4gKTOjlX5qpSRsWNWjm1qHSKhg8c7Qcbc6vwuBxCxvObJlA7DHr66z/Fodii29nEVRrmlWQ6e2IP0HVuJU3Ic+Cy3PURwXIdhJvuICyjepI9zTQogoEAij0esYUCg4KI1jdkDWfkoggaaqwrF4Q1hI1fKCo7y+YAAkkXX0fiAoJYRXUbjA0KprCCOoXCmQYonBuOD8AGpD22HIl+01fMeWSS8qMcHFFw2RefiXN8Lz7bepkWRDIQm/IizjfG7I/IdlyfK5wPCbj8EOX2UyGvV+6KL5xS9DqsdIEUZWUCc67YlukM9MRDxu1ag+6M3F+7Wm8IdI0WdWkLQGNMh36pfCu8ITQwEtNlsqIyNoYR2syu8/0LR68gYEhx7PdaqvvDWAnvmab/7/Zdd4SrE7hhx57TaTmCggBmoX905aiUw0sgM1Dw6qifRdGUGqpUrrSRGQNiKDSTqHe5fJNInZwLq++3yv9tmEj1gFiDPbu2Zb7dOxPugG6EGIvbR1ulf9f51N5nBL2qg4HJ3e+vqKiIQ4QehQ65VPe5ZGGYjEoahL3z6i/7IXEdBRjqzDGTsdVumKdg5UgOBVHo2nFUeb2pa5Jgn56+aYoNYaiAtv6IvSjOPn+oK8ezanrVTF7pH1EBq6Vvbj6ancrGPJ7j06KzTFToCQn9kemmaIHgbOgJYgN+bjZ7IK4TeMQJt9CE/v5xviATiTjwLc2Knq7mB5JEBFRHCD5RVhU5XcwNBIrbcwP01EoqNQviBkNi6MDdQFGdSIpH+B/gEHfMaZ+rNAAAAAElFTkSuQmCC\"}],\"refine\":{\"clean\":0.0,\"grow\":0.0,\"follow\":0.0,\"soften\":0.0}},\"remedies\":[{\"id\":\"neutralise\",\"on\":true,\"amount\":0.7,\"kind\":\"neutralise\",\"follow\":1.0,\"soften\":0.0,\"hold_lightness\":1.0}],\"link\":null}],\"dismissed\":[{\"id\":\"d\",\"shift\":[0.1,0.2],\"box\":[0.0,0.0,0.3,0.3]}]}', '2026-11-26 23:23:25.443624', 1, 1);

SET FOREIGN_KEY_CHECKS = 1;
